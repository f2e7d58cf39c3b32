import type { KeyboardEvent } from "react";
import type { DayReport, Odds } from "../../../api/client";
import type { CurveScale } from "../../../curve/scale";
import { useUnit } from "../../../plan/context";
import { dayName } from "../../../quantities/clock";
import { amountText, percentText } from "../../../quantities/units";
import { Button } from "../../../ui/Button";

interface Props {
  scale: CurveScale;
  first: number;
  chosen: number;
  floor: number;
  /** The odds of each day from now, on a trip under way. */
  odds: Odds["days"] | null;
  onChoose: (day: number) => void;
}

/** From so many pixels a day on its column says all, the middle, its name in a line, a little. */
const ALL_PX = 104;
const MIDDLE_PX = 62;
const NAME_PX = 54;
const LITTLE_PX = 30;

/** Each day's name, what came in and went out, and its lowest level, under the curve. */
export function DayColumns(props: Props) {
  const { scale, first, chosen, floor, odds, onChoose } = props;
  function key(event: KeyboardEvent, index: number) {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const next = index + (by ?? 0);
    if (by === undefined || next < first || next >= first + scale.days.length) return;
    event.preventDefault();
    onChoose(next);
    const column = document.querySelector(`[data-column="${next}"]`);
    if (column instanceof HTMLElement) column.focus();
  }
  return (
    <div className="relative flex" role="group" aria-label="Days">
      {scale.days.map((day, i) => (
        <Column
          key={day.date}
          day={day}
          index={first + i}
          wide={scale.x(day.first_step + day.steps) - scale.x(day.first_step)}
          chosen={first + i === chosen}
          lowest={
            odds ? (odds[first + i]?.lowest.middle ?? day.lowest_percent) : day.lowest_percent
          }
          floor={floor}
          onChoose={() => onChoose(first + i)}
          onKeyDown={(event) => key(event, first + i)}
        />
      ))}
    </div>
  );
}

interface ColumnProps {
  day: DayReport;
  index: number;
  wide: number;
  chosen: boolean;
  lowest: number;
  floor: number;
  onChoose: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
}

function Column({ day, index, wide, chosen, lowest, floor, onChoose, onKeyDown }: ColumnProps) {
  const unit = useUnit();
  const name = dayName(day.date);
  const low = lowest < floor;
  const inOut = `${amountText(day.taken, unit)} in, ${amountText(day.used, unit)} out`;
  const [weekday = "", date = ""] = name.split(" ");
  return (
    <Button
      look="bare"
      data-column={index}
      data-day={index}
      aria-pressed={chosen}
      tabIndex={chosen ? 0 : -1}
      style={{ width: wide }}
      className="min-h-11 shrink-0 overflow-hidden rounded-lg py-1 text-center leading-tight hover:bg-line/40"
      onClick={onChoose}
      onKeyDown={onKeyDown}
    >
      <span className="sr-only">
        {`${name}: ${inOut}, lowest ${percentText(lowest)}${low ? ", under your reserve" : ""}`}
      </span>
      <span aria-hidden="true">
        <span className="block font-head font-bold whitespace-nowrap">
          {wide >= NAME_PX ? (
            name
          ) : (
            <>
              {wide >= LITTLE_PX ? weekday : weekday.slice(0, 1)} <br />
              {date}
            </>
          )}
        </span>
        {wide >= MIDDLE_PX && (
          <span className="block text-sm whitespace-nowrap text-ash">
            {wide >= ALL_PX
              ? `${amountText(day.taken, unit)} in · ${amountText(day.used, unit)} out`
              : `${amountText(day.taken, unit)} · ${amountText(day.used, unit)}`}
          </span>
        )}
        <span
          className={`block whitespace-nowrap ${wide < LITTLE_PX ? "text-xs" : "text-sm"} ${low ? "font-semibold text-danger" : "font-semibold"}`}
        >
          {wide >= MIDDLE_PX && "low "}
          <span data-testid="lowest">
            {Math.round(lowest)}
            <span className={wide >= LITTLE_PX + 8 ? "" : "sr-only"}> %</span>
          </span>
        </span>
      </span>
    </Button>
  );
}
