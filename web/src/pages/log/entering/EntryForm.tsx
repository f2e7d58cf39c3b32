import { useId, useState } from "react";
import type { EntryKind, NewEntry, Plan, Problem, SkyKey } from "../../../api/client";
import { useReference } from "../../../plan/useReference";
import { dayName } from "../../../quantities/clock";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import { Select } from "../../../ui/fields/Select";
import {
  COUNTED_AT,
  type Draft,
  earlier,
  entryOf,
  freshDraft,
  KINDS,
  type KindSpec,
  kindsOf,
  type NumberSpec,
  specOf,
} from "./entryKinds";

interface Props {
  plan: Plan;
  days: readonly string[];
  /** Local time that stands for now. */
  now: string;
  /** An entry that is being corrected. */
  begin: Draft | null;
  busy: boolean;
  refusal: Problem | null;
  onSend: (entry: NewEntry) => void;
  onCancel: () => void;
}

const GROUPS: readonly { value: KindSpec["group"]; text: string }[] = [
  { value: "read", text: "I read" },
  { value: "did", text: "we did" },
  { value: "saw", text: "we saw" },
];

/** One entry: what it is, how much, when. Nonsense is refused here and nothing is lost. */
export function EntryForm(props: Props) {
  const { plan, days, now, begin, busy, refusal, onSend, onCancel } = props;
  const appliances = plan.use.appliances.filter((appliance) => appliance.on);
  const [draft, setDraft] = useState<Draft>(
    () => begin ?? freshDraft("monitor_percent", now, appliances[0]?.id ?? ""),
  );
  const [asked, setAsked] = useState(false);
  const spec = specOf(draft.kind);
  const checked = entryOf(draft);
  const refusals = asked && !checked.ok ? checked.refusals : {};
  const set = (part: Partial<Draft>) => setDraft((old) => ({ ...old, ...part }));

  function send() {
    setAsked(true);
    if (checked.ok) onSend(checked.entry);
  }

  return (
    <form
      className="plate flex flex-col gap-3 px-4 py-3"
      aria-label={begin ? "Correct an entry" : "A new entry"}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <KindPicker plan={plan} kind={draft.kind} onChange={(kind) => set({ kind })} />
      <div className="grid grid-cols-2 items-end gap-3">
        {spec.numbers.map((number) => (
          <Line
            key={number.key}
            number={number}
            text={draft.numbers[number.key] ?? ""}
            refusal={refusals[number.key]}
            onChange={(text) => set({ numbers: { ...draft.numbers, [number.key]: text } })}
          />
        ))}
        {spec.appliance && (
          <div className="col-span-2">
            <Select
              label="Which appliance"
              value={draft.appliance}
              options={appliances.map((a) => ({ value: a.id, text: a.name }))}
              onChange={(appliance) => set({ appliance })}
            />
          </div>
        )}
        {draft.kind === "sky" && <SkyPicker sky={draft.sky} onChange={(sky) => set({ sky })} />}
        <DayPicker label="Day" days={days} day={draft.day} onChange={(day) => set({ day })} />
        {!spec.daily && (
          <Clock
            label={spec.span ? "From" : "Time"}
            text={draft.clock}
            refusal={refusals.clock}
            onChange={(clock) => set({ clock })}
          />
        )}
        {spec.span && (
          <Clock
            label="Until"
            text={draft.until}
            refusal={refusals.until}
            onChange={(until) => set({ until })}
          />
        )}
        {COUNTED_AT[draft.kind] && (
          <>
            <DayPicker
              label="Set to zero"
              days={days}
              day={draft.sinceDay}
              none="read before"
              onChange={(sinceDay) => set({ sinceDay })}
            />
            {draft.sinceDay && (
              <Clock
                label="at"
                text={draft.sinceClock}
                refusal={refusals.since}
                onChange={(sinceClock) => set({ sinceClock })}
              />
            )}
          </>
        )}
      </div>
      {!spec.daily && (
        <div className="flex flex-wrap gap-2">
          {(
            [
              ["now", 0],
              ["an hour ago", 60],
              ["three hours ago", 180],
            ] as const
          ).map(([name, minutes]) => (
            <Button
              key={name}
              className="text-sm"
              onClick={() => {
                const at = earlier(now, minutes);
                set({ day: at.slice(0, 10), clock: at.slice(11, 16) });
              }}
            >
              {name}
            </Button>
          ))}
        </div>
      )}
      <Note text={draft.note} onChange={(note) => set({ note })} />
      {refusal && (
        <p role="alert" className="text-danger">
          {refusal.detail}
        </p>
      )}
      <div className="flex gap-2">
        <Button look="main" type="submit" disabled={busy}>
          {begin ? "Save correction" : "Log it"}
        </Button>
        {begin && <Button onClick={onCancel}>Cancel</Button>}
      </div>
      {spec.hint && <p className="text-sm text-ash">{spec.hint}</p>}
      {draft.kind === "drove" && (
        <p className="text-sm text-ash">It takes the place of the drives planned for that day.</p>
      )}
    </form>
  );
}

interface PickerProps {
  plan: Plan;
  kind: EntryKind;
  onChange: (kind: EntryKind) => void;
}

function KindPicker({ plan, kind, onChange }: PickerProps) {
  const group = specOf(kind).group;
  const kinds = kindsOf(plan).filter((spec) => spec.group === group || spec.kind === kind);
  return (
    <div className="flex flex-col gap-2.5">
      <Choice
        label="What to log"
        value={group}
        options={GROUPS}
        onChange={(next) => onChange(KINDS.find((spec) => spec.group === next)?.kind ?? kind)}
      />
      <div className="border-t border-line pt-2.5">
        <Choice
          label="Kind of entry"
          value={kind}
          options={kinds.map((spec) => ({
            value: spec.kind,
            text: spec.text,
          }))}
          onChange={onChange}
        />
      </div>
    </div>
  );
}

function Line(props: {
  number: NumberSpec;
  text: string;
  refusal: string | undefined;
  onChange: (text: string) => void;
}) {
  const { number, text, refusal, onChange } = props;
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        {number.text} ({number.limit.unit})
      </label>
      <input
        id={id}
        className="field text-right text-xl"
        inputMode={number.limit.least < 0 ? "text" : "decimal"}
        autoComplete="off"
        value={text}
        aria-invalid={refusal !== undefined}
        aria-describedby={refusal ? `${id}-says` : undefined}
        onChange={(event) => onChange(event.target.value)}
      />
      <Refused id={`${id}-says`} refusal={refusal} />
    </div>
  );
}

function Refused({ id, refusal }: { id: string; refusal: string | undefined }) {
  return refusal ? (
    <p id={id} role="alert" className="mt-1 text-sm text-danger">
      {refusal}
    </p>
  ) : null;
}

function Clock(props: {
  label: string;
  text: string;
  refusal: string | undefined;
  onChange: (text: string) => void;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        {props.label}
      </label>
      <input
        id={id}
        className="field"
        autoComplete="off"
        value={props.text}
        placeholder="07:30"
        aria-invalid={props.refusal !== undefined}
        onChange={(event) => props.onChange(event.target.value)}
      />
      <Refused id={`${id}-says`} refusal={props.refusal} />
    </div>
  );
}

function DayPicker(props: {
  label: string;
  days: readonly string[];
  day: string;
  none?: string;
  onChange: (day: string) => void;
}) {
  const { label, days, day, none, onChange } = props;
  const options = days.map((date) => ({ value: date, text: dayName(date, days.length > 28) }));
  return (
    <Select
      label={label}
      value={day}
      options={none ? [{ value: "", text: none }, ...options] : options}
      onChange={onChange}
    />
  );
}

function SkyPicker({ sky, onChange }: { sky: SkyKey; onChange: (sky: SkyKey) => void }) {
  const skies = useReference()?.skies ?? [];
  return (
    <div className="col-span-2">
      <Select
        label="How it was"
        value={sky}
        options={skies
          .filter((one) => one.key !== "usual")
          .map((one) => ({ value: one.key as SkyKey, text: one.text }))}
        onChange={onChange}
      />
    </div>
  );
}

function Note({ text, onChange }: { text: string; onChange: (text: string) => void }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        Note, if you like
      </label>
      <input
        id={id}
        className="field"
        value={text}
        maxLength={200}
        onChange={(event) => onChange(event.target.value)}
      />
    </div>
  );
}
