import type { Plan } from "../../../api/client";
import { Fields, type Spec } from "../../../ui/fields/Fields";

type Guess = Plan["assumptions"];

const SPECS: readonly Spec<Guess>[] = [
  {
    kind: "number",
    key: "settled",
    text: "Weather is settled by",
    hint: "5 settled, 3 normal, 1.7 changeable.",
    unit: "",
    empty: "the climate’s",
  },
  {
    kind: "number",
    key: "start_doubt_percent",
    text: "Level at the start is off by",
    unit: "points",
  },
  { kind: "number", key: "capacity_doubt_percent", text: "Battery is off by" },
  { kind: "number", key: "panel_doubt_percent", text: "Panels are off by" },
  {
    kind: "number",
    key: "scenarios",
    text: "Futures run",
    hint: "200 are good to about 3 in 100.",
    unit: "",
  },
  {
    kind: "number",
    key: "seed",
    text: "Skies named",
    hint: "Another number, other weather.",
    unit: "",
  },
];

interface Props {
  assumptions: Guess;
  onChange: (part: Partial<Guess>) => void;
}

/** How unsure the numbers are that nobody has measured, and how many scenarios are run. */
export function DoubtFields({ assumptions, onChange }: Props) {
  return (
    <fieldset>
      <legend className="mb-1 font-head font-semibold">How unsure it is</legend>
      <Fields model="Assumptions" part={assumptions} specs={SPECS} onChange={onChange} />
    </fieldset>
  );
}
