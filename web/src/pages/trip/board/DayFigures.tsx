import type { DayReport, Odds, Period } from "../../../api/client";
import { useUnit } from "../../../plan/context";
import { Figure, useOpenSum } from "../../../plan/sums";
import { amountIn, amountText, percentText, type Unit } from "../../../quantities/units";
import { Button } from "../../../ui/Button";

interface Props {
  day: DayReport;
  odds: Odds["days"][number] | undefined;
  /** The odds are those of the rest of the trip, from now: they have no sum of the plan's own. */
  tracked: boolean;
  index: number;
  label: string;
  floor: number;
  /** The largest daily amount of the trip, for the bars. */
  most: number;
}

/** From here on a day’s chance of going under is written in red. */
const WORRYING_PERCENT = 20;

/** A day's figures; a click opens how they were made. */
export function DayFigures({ day, odds, tracked, index, label, floor, most }: Props) {
  const unit = useUnit();
  const openSum = useOpenSum();
  const lowest = tracked && odds ? odds.lowest.middle : day.lowest_percent;
  const low = lowest < floor;
  return (
    <div className="relative">
      <Button
        look="bare"
        onClick={(event) => openSum({ figure: "ledger", day: index }, event.currentTarget)}
        className="grid w-full grid-cols-[1fr_1fr_1fr_1.15fr] items-center gap-x-2 rounded-lg px-1 text-right hover:bg-line/40"
      >
        <span className="sr-only">
          {label}, {unit}:{" "}
        </span>
        <Shown caption="in">{amountText(day.taken, unit)}</Shown>
        <Shown caption="out">{amountText(day.used, unit)}</Shown>
        <Shown caption="net" ink={amountIn(day.net, unit) < 0 ? "text-danger" : "text-level"}>
          {amountText(day.net, unit, true)}
        </Shown>
        <Shown caption="lowest" ink={low ? "text-danger" : ""}>
          <span data-testid="lowest">{percentText(lowest)}</span>
          {low && <span className="sr-only">, under your reserve</span>}
        </Shown>
        <span className="sr-only">. Open the sum</span>
        <span className="col-span-3 mt-0.5 hidden sm:block">
          <Bars day={day} unit={unit} most={most} />
        </span>
      </Button>
      {odds && odds.under_percent > 0 && (
        <DayChance odds={odds} tracked={tracked} index={index} label={label} />
      )}
    </div>
  );
}

function DayChance(props: {
  odds: Odds["days"][number];
  tracked: boolean;
  index: number;
  label: string;
}) {
  const { odds, tracked, index, label } = props;
  const place = `ml-auto block text-xs leading-none whitespace-nowrap sm:absolute sm:right-1 sm:bottom-0.5 ${
    odds.under_percent >= WORRYING_PERCENT ? "text-danger" : "text-ash"
  }`;
  const text = (
    <>
      <span className="sr-only">{label}: </span>
      below <span className="sm:hidden">your reserve </span>in{" "}
      {Math.max(Math.round(odds.under_percent), 1)} of 100
    </>
  );
  if (tracked) {
    return (
      <span className={`${place} text-right`} data-testid="day-odds" title="From now on">
        {text}
      </span>
    );
  }
  return (
    <Figure of="odds" day={index} testId="day-odds" className={place}>
      {text}
    </Figure>
  );
}

function Shown(props: { caption: string; ink?: string; children: React.ReactNode }) {
  return (
    <span className={`font-head text-[1.02rem] leading-tight font-semibold ${props.ink ?? ""}`}>
      <span className="mr-1 font-body text-xs font-normal text-ash sm:sr-only">
        {props.caption}
      </span>{" "}
      {props.children}{" "}
    </span>
  );
}

/** In, by source, over out: the same scale on every day. */
function Bars({ day, unit, most }: { day: Period; unit: Unit; most: number }) {
  const share = (value: number) => `${(100 * value) / Math.max(most, 1e-9)}%`;
  return (
    <span className="block" aria-hidden="true">
      <span className="flex h-1.5">
        {day.sources.map((source) => (
          <span
            key={source.key}
            style={{
              width: share(amountIn(source.taken, unit)),
              background: `var(--color-${source.kind})`,
            }}
          />
        ))}
      </span>
      <span className="mt-0.5 flex h-1.5">
        <span className="bg-use" style={{ width: share(amountIn(day.used, unit)) }} />
      </span>
    </span>
  );
}
