import { useState } from "react";
import type { OwnedPart, PartLine } from "../../api/client";
import { moneyText } from "../../quantities/habits";
import type { LimitKey } from "../../quantities/parse";
import { shortFigure } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";
import { NumberField } from "../../ui/fields/NumberField";
import { Popover } from "../../ui/Popover";

interface Props {
  line: PartLine;
  part: OwnedPart;
  name: string;
  onChange: (next: Partial<OwnedPart>) => void;
}

type Size = "length_mm" | "width_mm" | "height_mm";
const SIZES: readonly [Size, string][] = [
  ["length_mm", "Length"],
  ["width_mm", "Width"],
  ["height_mm", "Height"],
];

/** What one part costs, weighs and measures; left empty, the typical figure holds. */
export function PartPopover({ line, part, name, onChange }: Props) {
  const [open, setOpen] = useState(false);
  const habits = useHabits();
  const price = moneyText(habits, line.euro_low, line.euro_high);
  const each = (line.euro_low + line.euro_high) / 2 / line.count;
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      title={name}
      trigger={
        <Button
          look="bare"
          className="figure"
          aria-label={`${price}: price, weight and size of ${name}`}
        >
          <span className={line.price_known ? "font-semibold" : "guessed px-1"}>{price}</span>
        </Button>
      }
    >
      <div className="grid w-64 grid-cols-2 gap-3">
        <NumberField
          label={line.unit ? "Price of a metre" : "Price of one"}
          value={part.euro}
          limit="OwnedPart.euro"
          unit="€"
          empty={`${shortFigure(each)}?`}
          onCommit={(euro) => onChange({ euro })}
          onClear={() => onChange({ euro: null })}
        />
        <NumberField
          label={line.unit ? "Weight of a metre" : "Weight of one"}
          value={part.kg}
          limit="OwnedPart.kg"
          empty={`${shortFigure(line.kg / line.count)}?`}
          onCommit={(kg) => onChange({ kg })}
          onClear={() => onChange({ kg: null })}
        />
        {line.length_mm != null &&
          SIZES.map(([key, text]) => (
            <NumberField
              key={key}
              label={text}
              value={part[key]}
              limit={`OwnedPart.${key}` as LimitKey}
              empty={`${shortFigure(line[key] ?? 0)}?`}
              onCommit={(value) => onChange({ [key]: value })}
              onClear={() => onChange({ [key]: null })}
            />
          ))}
      </div>
    </Popover>
  );
}
