import { usePlanState, usePlanStore } from "../../../plan/context";
import type { SourceLook, SourcePart } from "../../../sources";
import { Fields } from "../../../ui/fields/Fields";
import { TextField } from "../../../ui/fields/TextField";
import { More } from "../../../ui/More";
import { SourceEnd, SourceTaken } from "../drawing/SourceEnd";
import { withoutSource, withSource } from "../parts";
import { LimitNote } from "./LimitNote";

interface Props {
  look: SourceLook;
  fields: NonNullable<SourceLook["fields"]>;
  id: string;
}

/** The sheet of a kind of source that has nothing but fields. */
export function FieldsSheet({ look, fields, id }: Props) {
  const store = usePlanStore();
  const { draft, run } = usePlanState();
  const part = (draft.box[look.key] as SourcePart[]).find((one) => one.id === id);
  if (!part) return null;
  const changed = (next: SourcePart) => withSource(store.snapshot().draft, look.key, next);
  const set = (next: SourcePart) => store.commit(changed(next), `changed ${part.name}`);
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">{fields.title}</h2>
      <LimitNote limits={run.limits} part={id} />
      <SourceTaken id={id} />
      <TextField label="Name" value={part.name} onCommit={(name) => set({ ...part, name })} />
      <Fields
        model={fields.model}
        part={part}
        specs={fields.first}
        onChange={set}
        onPreview={(next) => store.preview(changed(next))}
      />
      <p className="text-sm text-ash">{fields.text}</p>
      <More text="More of its figures">
        <Fields model={fields.model} part={part} specs={fields.more} onChange={set} />
      </More>
      <SourceEnd
        id={id}
        onRemove={() => store.edit((old) => withoutSource(old, id), `removed ${part.name}`)}
      />
    </div>
  );
}
