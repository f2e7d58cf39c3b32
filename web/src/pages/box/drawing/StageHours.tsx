import { usePlanPart } from "../../../plan/context";
import { hoursText } from "../../../quantities/units";

const STAGES = [
  ["bulk_h", "bulk", "bg-rim"],
  ["absorption_h", "absorption", "bg-rim-soft"],
  ["float_h", "float", "bg-line"],
] as const;

/** How long a charger stood in each stage on the whole trip. */
export function StageHours({ id }: { id: string }) {
  const charger = usePlanPart((state) =>
    state.run.endurance.chargers.find((other) => other.key === id),
  );
  if (!charger) return null;
  const whole = charger.bulk_h + charger.absorption_h + charger.float_h;
  if (whole <= 0) return null;
  return (
    <div>
      <p className="text-sm text-ash">Stages over the trip</p>
      <div className="flex h-3 overflow-hidden rounded-sm border border-rim" aria-hidden="true">
        {STAGES.map(([key, , ink]) => (
          <span key={key} className={ink} style={{ width: `${(100 * charger[key]) / whole}%` }} />
        ))}
      </div>
      <p className="text-sm">
        {STAGES.map(([key, text]) => `${text} ${hoursText(charger[key])}`).join(" · ")}
      </p>
    </div>
  );
}
