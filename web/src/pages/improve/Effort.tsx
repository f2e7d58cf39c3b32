import { useState } from "react";
import type { Schemas } from "../../api/client";
import { usePlanPart } from "../../plan/context";
import { Button } from "../../ui/Button";
import { Switch } from "../../ui/fields/Switch";
import { Popover } from "../../ui/Popover";

type Bother = Schemas["Bother"];

const KEPT = "oddkettle.bother";
const USUAL: Bother = {
  start: 6,
  minute: 0.4,
  hookup: 40,
  half: 12,
  without: 30,
  warmer: 5,
  turn: 15,
  habit: 3,
};
/** How much each kind of change is to its user, in points of effort. */
const COSTS: readonly (readonly [keyof Bother, string])[] = [
  ["start", "To start the engine on another day"],
  ["minute", "A minute of driving"],
  ["hookup", "A night on mains"],
  ["half", "Something half as long"],
  ["without", "Going without something"],
  ["warmer", "The cool box two degrees warmer"],
  ["turn", "Turning the panel on every day"],
  ["habit", "A switch or plug to think of"],
];

function keptBother(): Bother {
  try {
    return { ...USUAL, ...JSON.parse(localStorage.getItem(KEPT) ?? "{}") };
  } catch {
    return USUAL;
  }
}

/** The effort of each kind of change as its user set it, kept in this browser. */
export function useEffort() {
  const [effort, setEffort] = useState(keptBother);
  function set(key: keyof Bother, value: number) {
    const next = { ...effort, [key]: value };
    localStorage.setItem(KEPT, JSON.stringify(next));
    setEffort(next);
  }
  return [effort, set] as const;
}

interface EffortProps {
  effort: Bother;
  onSet: (key: keyof Bother, value: number) => void;
}

/** How much each kind of change bothers its user: the least effort is looked for. */
export function EffortSheet({ effort, onSet }: EffortProps) {
  return (
    <Popover title="Effort" align="end" trigger={<Button>effort</Button>}>
      <div className="grid gap-3 sm:grid-cols-2">
        {COSTS.map(([key, name]) => (
          <label key={key} className="text-sm text-ash">
            {name}
            <input
              className="field text-right"
              inputMode="decimal"
              defaultValue={effort[key]}
              onBlur={(event) => {
                const value = Number(event.target.value.replace(",", "."));
                const good = event.target.value.trim() !== "" && value >= 0 && value <= 100;
                if (!good) event.target.value = String(effort[key]);
                else if (value !== effort[key]) onSet(key, value);
              }}
            />
          </label>
        ))}
      </div>
      <p className="mt-2 text-sm text-ash">
        Points are your own, from 0 to 100. They are compared with one another only.
      </p>
    </Popover>
  );
}

interface NeverProps {
  never: readonly string[];
  onNever: (never: readonly string[]) => void;
}

/** What is never to change: no fix touches it. */
export function NeverSheet({ never, onNever }: NeverProps) {
  const appliances = usePlanPart((state) => state.plan.document.use.appliances);
  const slots = [
    { slot: "drive", text: "Driving" },
    { slot: "hookup", text: "Nights on mains" },
    ...appliances
      .filter((one) => one.on && one.priority !== "must")
      .map((one) => ({ slot: `appliance:${one.id}`, text: one.name })),
  ];
  const named = slots.filter(({ slot }) => never.includes(slot)).map(({ text }) => text);
  return (
    <Popover
      title="Never change these"
      align="end"
      trigger={
        <Button>
          <span className="max-w-56 truncate">
            never change: {named.length > 0 ? named.join(", ") : "nothing"}
          </span>
          <span aria-hidden="true">▾</span>
        </Button>
      }
    >
      <div className="grid gap-2">
        {slots.map(({ slot, text }) => (
          <Switch
            key={slot}
            label={text}
            checked={never.includes(slot)}
            onChange={() =>
              onNever(never.includes(slot) ? never.filter((one) => one !== slot) : [...never, slot])
            }
          />
        ))}
      </div>
      <p className="mt-2 text-sm text-ash">
        What must run, and what is medical, is never switched off.
      </p>
    </Popover>
  );
}
