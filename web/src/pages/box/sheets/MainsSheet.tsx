import type { Mains } from "../../../api/client";
import { LabelReader } from "../../../labels/LabelReader";
import { usePlanState, usePlanStore } from "../../../plan/context";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { TextField } from "../../../ui/fields/TextField";
import { More } from "../../../ui/More";
import { SourceEnd, SourceTaken } from "../drawing/SourceEnd";
import { StageHours } from "../drawing/StageHours";
import { withoutSource, withSource } from "../parts";
import { ProfileFields } from "./battery/ProfileFields";
import { LimitNote } from "./LimitNote";

const SPECS: readonly Spec<Mains>[] = [
  { kind: "slider", key: "limit_a", text: "Output limit", from: 0.5, to: 60, step: 0.5 },
  { kind: "number", key: "efficiency_percent", text: "Efficiency" },
  { kind: "number", key: "supply_w", text: "The supply allows", empty: "enough" },
];
const NOISY: readonly Spec<Mains>[] = [
  { kind: "flag", key: "noisy", text: "It makes radio noise" },
];

/** A mains charger: staged, or a trickle charger with one voltage. */
export function MainsSheet({ mains }: { mains: Mains }) {
  const store = usePlanStore();
  const { draft, run } = usePlanState();
  const changed = (next: Mains) => withSource(store.snapshot().draft, "mains", next);
  const set = (next: Mains) => store.commit(changed(next), `changed ${mains.name}`);
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">From the mains</h2>
      <LimitNote limits={run.limits} part={mains.id} />
      <SourceTaken id={mains.id} />
      <TextField label="Name" value={mains.name} onCommit={(name) => set({ ...mains, name })} />
      <Fields
        model="Mains"
        part={mains}
        specs={SPECS}
        onChange={set}
        onPreview={(next) => store.preview(changed(next))}
      />
      <LabelReader
        of="mains"
        parts={{ mains }}
        onTake={(read) => read.mains && set({ ...read.mains, id: mains.id })}
      />
      <p className="text-sm text-ash">
        {draft.trip.kind === "standby"
          ? "Standing by, it works all the time but for outages."
          : "It works in hook-up hours."}
      </p>
      <More text="Voltages and noise">
        <ProfileFields
          profile={mains.profile}
          absorption={run.bank.absorption_v}
          float={run.bank.float_v}
          onChange={(profile) => set({ ...mains, profile })}
        />
        <Fields model="Mains" part={mains} specs={NOISY} onChange={set} />
      </More>
      <StageHours id={mains.id} />
      <SourceEnd
        id={mains.id}
        onRemove={() => store.edit((old) => withoutSource(old, mains.id), `removed ${mains.name}`)}
      />
    </div>
  );
}
