import { Button } from "../../../ui/Button";
import { Stepper } from "../../../ui/fields/Stepper";
import { type Thing, withThing } from "../sentence";
import type { SheetProps } from "./Sheet";

/** What runs: ticked, counted, and with watts and hours of one's own where they are known. */
export function ThingSheet({ sentence, choices, onChange }: SheetProps) {
  return (
    <ul className="flex flex-col gap-1.5">
      {choices.things.map((one) => {
        const chosen = sentence.things.find((thing) => thing.kind === one.key);
        const change = (part: Partial<Thing>) =>
          onChange({
            ...sentence,
            things: sentence.things.map((t) => (t.kind === one.key ? { ...t, ...part } : t)),
          });
        return (
          <li key={one.key}>
            <div className="flex items-center gap-1.5">
              <Button
                look="bare"
                aria-pressed={Boolean(chosen)}
                className="tick flex-1 justify-start"
                onClick={() => onChange(withThing(sentence, one.key, chosen ? 0 : 1))}
              >
                <span aria-hidden="true" className="w-4">
                  {chosen ? "✓" : ""}
                </span>
                {one.text}
              </Button>
              {chosen && one.countable && (
                <Stepper
                  label={one.many}
                  value={chosen.count}
                  least={1}
                  most={12}
                  onChange={(count) => change({ count })}
                />
              )}
            </div>
            {chosen && <Figures key={one.key} usual={one} thing={chosen} onChange={change} />}
          </li>
        );
      })}
    </ul>
  );
}

interface FiguresProps {
  usual: SheetProps["choices"]["things"][number];
  thing: Thing;
  onChange: (part: Partial<Thing>) => void;
}

/** Watts and hours, where they are known. */
function Figures({ usual, thing, onChange }: FiguresProps) {
  const all = usual.end === "24:00";
  return (
    <details className="mb-1 ml-6 text-sm">
      <summary className="cursor-pointer py-1 text-ash">
        {thing.power_w ?? usual.power_w} W
        {all ? "" : `, ${thing.hours?.start ?? usual.start} to ${thing.hours?.end ?? usual.end}`}
        {thing.power_w == null ? ", as is usual" : ""}
      </summary>
      <div className="flex flex-wrap items-center gap-2 pb-1">
        <label className="flex items-center gap-1.5">
          <input
            className="field w-20 text-right"
            inputMode="decimal"
            aria-label={`Watts of ${usual.text}`}
            defaultValue={thing.power_w ?? ""}
            placeholder={String(usual.power_w)}
            onChange={(event) => {
              const watts = Number(event.target.value.replace(",", "."));
              if (event.target.value.trim() === "") onChange({ power_w: null });
              else if (watts >= 0.01 && watts <= 5000) onChange({ power_w: watts });
            }}
          />
          W
        </label>
        {(["start", "end"] as const).map((edge) => (
          <label key={edge} className="flex items-center gap-1.5">
            {edge === "start" ? "from" : "to"}
            <input
              type="time"
              className="field w-28"
              aria-label={`${edge === "start" ? "Start" : "End"} of ${usual.text}`}
              value={(thing.hours?.[edge] ?? usual[edge]).replace("24:00", "00:00")}
              onChange={(event) => {
                if (!event.target.value) return;
                const hours = { start: usual.start, end: usual.end, ...thing.hours };
                onChange({ hours: { ...hours, [edge]: event.target.value } });
              }}
            />
          </label>
        ))}
        <p className="w-full text-ash">{usual.note}</p>
      </div>
    </details>
  );
}
