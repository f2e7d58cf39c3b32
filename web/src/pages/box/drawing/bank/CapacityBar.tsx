import { usePlanState, useUnit } from "../../../../plan/context";
import { Figure } from "../../../../plan/sums";
import { amountText } from "../../../../quantities/units";

/** Nameplate as one bar: what can be used, the reserve, and what wears it or is lost inside. */
export function CapacityBar() {
  const unit = useUnit();
  const { run, draft } = usePlanState();
  const floor = draft.trip.floor_percent;
  const { bank } = run;
  const healthy = bank.healthy_floor_percent;
  const out = (100 * bank.usable.ah) / bank.nominal.ah;
  const ofUnit = [
    { key: "usable", from: 0, to: out, text: "comes out", ink: "level" },
    { key: "kept", from: out, to: 100 - floor, text: "is lost inside", ink: "kept" },
    { key: "reserve", from: 0, to: floor, text: "reserve", ink: "reserve" },
  ];
  const ofBattery = [
    { key: "usable", from: Math.max(floor, healthy), to: 100, text: "usable", ink: "level" },
    floor < healthy
      ? { key: "hard", from: floor, to: healthy, text: "usable, but it wears", ink: "hard" }
      : { key: "reserve", from: healthy, to: floor, text: "reserve", ink: "reserve" },
    { key: "kept", from: 0, to: Math.min(floor, healthy), text: "leave it", ink: "kept" },
  ];
  // What a unit's makers keep back is no affair of its owner's: what is lost inside is.
  const parts = (draft.box.unit ? ofUnit : ofBattery).filter((part) => part.to - part.from > 0.05);
  const of = (percent: number) =>
    `${amountText({ ah: (bank.nominal.ah * percent) / 100, wh: (bank.nominal.wh * percent) / 100 }, unit)} ${unit}`;
  return (
    <div data-testid="capacity-bar">
      <div className="flex h-8 overflow-hidden rounded-md border-2 border-rim" aria-hidden="true">
        {parts.toReversed().map((part) => (
          <svg
            key={part.key}
            height="32"
            style={{ width: `${part.to - part.from}%` }}
            className={part.ink === "level" ? "bg-level-tint" : "bg-plate"}
            aria-hidden="true"
          >
            {part.ink !== "level" && (
              <rect
                width="100%"
                height="100%"
                fill={`url(#pat-${part.ink === "kept" ? "below" : part.ink === "hard" ? "outage" : "quiet"})`}
                fillOpacity={part.ink === "kept" ? 0.5 : 0.8}
              />
            )}
          </svg>
        ))}
      </div>
      <ul className="mt-1 flex flex-wrap justify-between gap-x-3 text-sm">
        {parts.toReversed().map((part) => (
          <li key={part.key}>
            <strong>{of(part.to - part.from)}</strong> {part.text}
          </li>
        ))}
      </ul>
      <p className="text-sm text-ash">
        <Figure of="usable">
          {amountText(bank.usable, unit)} of {amountText(bank.nominal, unit)} {unit}
        </Figure>{" "}
        on the label {draft.box.unit ? "come out" : "lie"} above your reserve of {floor} %.
      </p>
    </div>
  );
}
