import type { Plan } from "../../api/client";
import { NumberField } from "../../ui/NumberField";

type Guess = Plan["assumptions"];

interface Props {
  assumptions: Guess;
  onChange: (part: Partial<Guess>) => void;
}

/** How unsure the numbers are that nobody has measured, and how many futures are run. */
export function DoubtFields({ assumptions, onChange }: Props) {
  return (
    <fieldset className="grid grid-cols-2 gap-3">
      <legend className="col-span-2 mb-1 font-head font-semibold">How unsure it is</legend>
      <NumberField
        label="Weather is settled by"
        hint="5 settled, 3 normal, 1.7 changeable."
        unit=""
        value={assumptions.settled}
        limit="Assumptions.settled"
        empty="the climate’s"
        onClear={() => onChange({ settled: null })}
        onCommit={(settled) => onChange({ settled })}
      />
      <NumberField
        label="Level at the start is off by"
        unit="points"
        value={assumptions.start_doubt_percent}
        limit="Assumptions.start_doubt_percent"
        onCommit={(start_doubt_percent) => onChange({ start_doubt_percent })}
      />
      <NumberField
        label="Battery is off by"
        value={assumptions.capacity_doubt_percent}
        limit="Assumptions.capacity_doubt_percent"
        onCommit={(capacity_doubt_percent) => onChange({ capacity_doubt_percent })}
      />
      <NumberField
        label="Panels are off by"
        value={assumptions.panel_doubt_percent}
        limit="Assumptions.panel_doubt_percent"
        onCommit={(panel_doubt_percent) => onChange({ panel_doubt_percent })}
      />
      <NumberField
        label="Futures run"
        hint="200 are good to about 3 in 100."
        unit=""
        value={assumptions.futures}
        limit="Assumptions.futures"
        onCommit={(futures) => onChange({ futures })}
      />
      <NumberField
        label="Skies named"
        hint="Another number, other skies."
        unit=""
        value={assumptions.seed}
        limit="Assumptions.seed"
        onCommit={(seed) => onChange({ seed })}
      />
    </fieldset>
  );
}
