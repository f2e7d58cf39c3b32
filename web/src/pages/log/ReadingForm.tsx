import { useId, useState } from "react";
import type { NewEntry, Problem } from "../../api/client";
import { dayName, parseClock } from "../../quantities/clock";
import { parseNumber } from "../../quantities/parse";
import { Choice } from "../../ui/Choice";

interface Props {
  start: string;
  days: readonly string[];
  busy: boolean;
  refusal: Problem | null;
  onAdd: (entry: NewEntry) => void;
}

const KINDS = {
  monitor_percent: { says: "monitor says", least: 0, most: 100, unit: "%" },
  rested_voltage: { says: "rested voltage", least: 5, most: 32, unit: "V" },
} as const;

/** One reading: which kind, how much, when. Nonsense is refused here and nothing is lost. */
export function ReadingForm({ start, days, busy, refusal, onAdd }: Props) {
  const id = useId();
  const [kind, setKind] = useState<NewEntry["kind"]>("monitor_percent");
  const [value, setValue] = useState("");
  const [day, setDay] = useState(days[0] ?? start);
  const [clock, setClock] = useState("08:00");
  const [note, setNote] = useState("");
  const [asked, setAsked] = useState(false);
  const bounds = KINDS[kind];
  const figure = parseNumber(value, { ...bounds, whole: false });
  const time = parseClock(clock);
  const figureSays = asked && !figure.ok ? figure.says : null;
  const timeSays = asked && !time.ok ? time.says : null;

  function send() {
    setAsked(true);
    if (!figure.ok || !time.ok) return;
    const at = time.value === "24:00" ? "23:59" : time.value;
    onAdd({ kind, value: figure.value, at: `${day}T${at}:00`, note });
  }

  return (
    <form
      className="plate flex flex-col gap-3 px-4 py-3"
      aria-label="A new reading"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <h2 className="text-lg">A reading</h2>
      <Choice
        label="Kind of reading"
        value={kind}
        options={[
          { value: "monitor_percent", says: "monitor %" },
          { value: "rested_voltage", says: "rested voltage" },
        ]}
        onChange={setKind}
      />
      <Labelled id={`${id}-value`} label={bounds.says} says={figureSays}>
        <div className="flex items-center gap-2">
          <input
            id={`${id}-value`}
            className="field text-right text-xl"
            inputMode="decimal"
            autoComplete="off"
            value={value}
            aria-invalid={figureSays !== null}
            onChange={(event) => setValue(event.target.value)}
          />
          <span className="text-ash">{bounds.unit}</span>
        </div>
      </Labelled>
      <div className="grid grid-cols-2 gap-3">
        <Labelled id={`${id}-day`} label="Day" says={null}>
          <select
            id={`${id}-day`}
            className="field"
            value={day}
            onChange={(event) => setDay(event.target.value)}
          >
            {days.map((date) => (
              <option key={date} value={date}>
                {dayName(date)}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled id={`${id}-time`} label="Time" says={timeSays}>
          <input
            id={`${id}-time`}
            className="field"
            value={clock}
            aria-invalid={timeSays !== null}
            onChange={(event) => setClock(event.target.value)}
          />
        </Labelled>
      </div>
      <Labelled id={`${id}-note`} label="Note, if you like" says={null}>
        <input
          id={`${id}-note`}
          className="field"
          value={note}
          maxLength={200}
          onChange={(event) => setNote(event.target.value)}
        />
      </Labelled>
      {refusal && (
        <p role="alert" className="text-danger">
          {refusal.detail}
        </p>
      )}
      <button type="submit" className="key key-on self-start" disabled={busy}>
        Log it
      </button>
      {kind === "rested_voltage" && (
        <p className="text-sm text-ash">
          Rested means some hours with nothing in or out. On LiFePO4 the curve is so flat from 30 to
          90 % that a voltmeter there says little; the bar on the board is as long as that doubt.
        </p>
      )}
    </form>
  );
}

interface LabelledProps {
  id: string;
  label: string;
  says: string | null;
  children: React.ReactNode;
}

function Labelled({ id, label, says, children }: LabelledProps) {
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        {label}
      </label>
      {children}
      {says && (
        <p role="alert" className="mt-1 text-sm text-danger">
          {says}
        </p>
      )}
    </div>
  );
}
