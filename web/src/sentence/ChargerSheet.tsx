import { Button } from "../ui/Button";
import { Stepper } from "../ui/fields/Stepper";
import { Picture } from "./pictures";
import type { SheetProps } from "./Sheet";
import { Sizes } from "./Sizes";
import { type Charger, withCharger } from "./sentence";

const MINUTES = [20, 30, 60, 90, 120, 180];

/** What charges it: as many as there are, or nothing. */
export function ChargerSheet({ sentence, choices, onChange }: SheetProps) {
  const told = (kind: string) => sentence.chargers.find((one) => one.kind === kind);
  return (
    <div className="flex flex-col gap-2">
      <p className="text-sm text-ash">As many as you have. None is an answer too.</p>
      {choices.chargers.map((one) => {
        const kind = one.key as Charger["kind"];
        const chosen = told(kind);
        const change = (part: Partial<Charger> | null) =>
          onChange(withCharger(sentence, kind, part));
        return (
          <div key={one.key}>
            <Button
              look="bare"
              aria-pressed={Boolean(chosen)}
              className="tick w-full"
              style={{ color: chosen ? undefined : "var(--color-ink)" }}
              onClick={() => change(chosen ? null : { size: one.usual })}
            >
              <Picture of={one.key} />
              <span className="flex-1 text-left">{one.text}</span>
              {chosen && (
                <span>
                  {chosen.size} {one.unit}
                </span>
              )}
            </Button>
            {chosen && (
              <div className="mt-1.5 mb-2 ml-3 flex flex-col gap-2 border-l-2 border-line pl-3">
                <Sizes
                  label={one.unit === "W" ? "Watts on its label" : "Amps on its label"}
                  unit={one.unit}
                  sizes={one.sizes}
                  value={chosen.size}
                  most={one.unit === "W" ? 5000 : 300}
                  onChange={(size) => change({ size })}
                />
                {one.timed && sentence.shape !== "standby" && (
                  <Timed choice={one} charger={chosen} onChange={change} />
                )}
              </div>
            )}
          </div>
        );
      })}
    </div>
  );
}

interface TimedProps {
  choice: SheetProps["choices"]["chargers"][number];
  charger: Charger;
  onChange: (part: Partial<Charger>) => void;
}

/** How often, and how long. */
function Timed({ choice, charger, onChange }: TimedProps) {
  return (
    <>
      <div className="flex items-center justify-between gap-2">
        <span>{choice.often} every</span>
        <Stepper
          label="Every so many days"
          value={charger.every}
          least={1}
          most={30}
          text={charger.every === 1 ? "day" : `${charger.every} days`}
          onChange={(every) => onChange({ every })}
        />
      </div>
      {choice.by_minutes && (
        <Sizes
          label="for so long"
          unit="min"
          sizes={MINUTES}
          value={charger.minutes}
          most={720}
          onChange={(minutes) => onChange({ minutes: Math.max(Math.round(minutes), 5) })}
        />
      )}
    </>
  );
}
