import type { SunInput } from "../../../api/client";
import { useReference } from "../../../plan/useReference";
import { Button } from "../../../ui/Button";
import { ClockField } from "../../../ui/fields/ClockField";
import { NumberField } from "../../../ui/fields/NumberField";

type Shade = SunInput["shade"];

/** Daily hours in which a tree or a wall stands in the light. */
export function ShadeFields(props: { sun: SunInput; onChange: (shade: Shade) => void }) {
  const { sun, onChange } = props;
  const fresh = useReference()?.fresh.shade;
  return (
    <div className="flex flex-col gap-2">
      {sun.shade.map((shade, index) => {
        const set = (next: Shade[number]) => onChange(sun.shade.with(index, next));
        const { hours } = shade;
        return (
          <div key={index} className="grid grid-cols-[1fr_1fr_1.2fr_auto] items-end gap-2">
            <ClockField
              label="Shade from"
              value={hours.start}
              onCommit={(start) => set({ ...shade, hours: { ...hours, start } })}
            />
            <ClockField
              label="to"
              value={hours.end}
              onCommit={(end) => set({ ...shade, hours: { ...hours, end } })}
            />
            <NumberField
              label="takes"
              value={shade.loses_percent}
              limit="Shade.loses_percent"
              onCommit={(loses_percent) => set({ ...shade, loses_percent })}
            />
            <Button
              aria-label={`Remove the shade from ${hours.start} to ${hours.end}`}
              onClick={() => onChange(sun.shade.toSpliced(index, 1))}
            >
              ×
            </Button>
          </div>
        );
      })}
      <Button
        className="self-start"
        disabled={sun.shade.length >= 6 || !fresh}
        onClick={() => fresh && onChange([...sun.shade, fresh])}
      >
        + shade by hours
      </Button>
    </div>
  );
}
