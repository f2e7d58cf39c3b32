import { Button } from "../ui/Button";
import { Stepper } from "../ui/fields/Stepper";
import { Switch } from "../ui/fields/Switch";
import { Picture } from "./pictures";
import type { SheetProps } from "./Sheet";
import { Sizes } from "./Sizes";
import { withBank } from "./sentence";

/** Which kind of box, how large, how many. */
export function BankSheet({ sentence, choices, ofPlan, onChange }: SheetProps) {
  const { bank } = sentence;
  const chosen = choices.banks.find((one) => one.key === bank.kind);
  const change = (part: Partial<typeof bank>) =>
    onChange({ ...sentence, bank: { ...bank, ...part } });
  return (
    <div className="flex flex-col gap-3">
      <div role="group" aria-label="Kind of box" className="grid grid-cols-3 gap-1.5">
        {choices.banks.map((one) => (
          <Button
            look="bare"
            key={one.key}
            aria-pressed={one.key === bank.kind}
            className="tick flex-col"
            onClick={() => onChange(withBank(sentence, choices, one.key))}
          >
            <Picture
              of={one.unit === "Wh" ? "unit" : one.floor_percent >= 50 ? "lead" : "lithium"}
            />
            {one.text}
          </Button>
        ))}
      </div>
      {chosen && (
        <>
          <Sizes
            label={chosen.unit === "Wh" ? "Capacity, from its label" : "Capacity of one battery"}
            unit={chosen.unit}
            sizes={chosen.sizes}
            value={bank.size}
            most={chosen.unit === "Wh" ? 20000 : 1500}
            onChange={(size) => change({ size })}
          />
          <p className="text-sm text-ash">
            {chosen.note}
            {!ofPlan && ` A reserve of ${chosen.floor_percent} % is kept.`}
          </p>
        </>
      )}
      {chosen?.unit === "Ah" && (
        <>
          <div className="flex items-center justify-between gap-2">
            <span>How many of them</span>
            <Stepper
              label="Batteries"
              value={bank.count}
              least={1}
              most={8}
              onChange={(count) => change({ count })}
            />
          </div>
          <Switch
            label="Heater pads under it"
            checked={bank.pads}
            onChange={(pads) => change({ pads })}
          />
        </>
      )}
    </div>
  );
}
