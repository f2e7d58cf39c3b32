import { type KeyboardEvent, type PointerEvent, useMemo } from "react";
import { LevelCurve } from "../../../curve/LevelCurve";
import { curveScale, GUTTER, TOP } from "../../../curve/scale";
import { useWidth } from "../../../drawing/useWidth";
import { DAY_MIN, dayName } from "../../../quantities/clock";
import { useHabits } from "../../../quantities/useHabits";
import { momentOf } from "../board/CursorLine";
import type { BoardProps } from "../board/DayBoard";
import { onPhone } from "../board/geometry";
import { ReadingMarks } from "../board/ReadingMarks";
import { ReserveHandle } from "../board/ReserveHandle";
import { cursorKeys, type useBoard } from "../board/useBoard";
import { DayColumns } from "./DayColumns";
import { LANE_GAP, LANE_HIGH, Lanes } from "./Lanes";
import { lanesOf } from "./lanes";

const HIGH = 164;
const HIGH_PHONE = 150;

interface Props extends BoardProps {
  chosen: number;
  board: ReturnType<typeof useBoard>;
  onChoose: (day: number) => void;
}

/** The whole trip as one curve, its lanes and its days; a press chooses a day. */
export function TripCurve(props: Props) {
  const { plan, run, track, cursor, onCursor, first, count, chosen, board, onChoose } = props;
  const [plot, width] = useWidth<HTMLDivElement>();
  const habits = useHabits();
  const { series } = run;
  const high = onPhone() ? HIGH_PHONE : HIGH;
  const scale = useMemo(
    () => curveScale(run, width, high, first, count),
    [run, width, high, first, count],
  );
  const lanes = useMemo(
    () => (series ? lanesOf(plan, series, board.taken) : []),
    [plan, series, board.taken],
  );
  if (!scale || !series) return <div ref={plot} />;
  const { x, y } = scale;
  const floor = plan.trip.floor_percent;
  const below = high + 10;
  const height = below + lanes.length * (LANE_HIGH + LANE_GAP);

  /** The day and minute under the pointer, to five minutes. */
  function at(event: PointerEvent) {
    const left = event.currentTarget.getBoundingClientRect().left;
    const share = Math.min(Math.max((event.clientX - left) / Math.max(width, 1), 0), 0.9999);
    const step = (scale?.from ?? 0) + share * ((scale?.to ?? 0) - (scale?.from ?? 0));
    const day = Math.max(
      run.days.findLastIndex((one) => one.first_step <= step),
      first,
    );
    const minute = (step - (run.days[day]?.first_step ?? 0)) * (scale?.stepMin ?? 5);
    return { day, minute: Math.floor(minute / 5) * 5 };
  }

  const label = dayName(run.days[cursor.day]?.date ?? plan.trip.start, run.days.length > 28);
  const told = momentOf(run, cursor, label, habits);
  const cursorDay = run.days[cursor.day];
  const step = (cursorDay?.first_step ?? 0) + Math.floor(cursor.minute / series.step_min);
  const keys = cursorKeys(cursor, run.days.length, (next) => {
    onCursor(next);
    if (next.day !== cursor.day) onChoose(next.day);
  });
  const shown = run.days[chosen];
  const frame = shown && scale.days.includes(shown);

  return (
    <section
      className="plate px-3 pt-3 pb-2 sm:px-4"
      aria-label="The whole trip, as one curve"
      data-testid="trip-curve"
    >
      <div className="relative" style={{ paddingLeft: GUTTER }}>
        <div ref={plot} className="relative min-w-0">
          {frame && (
            <div
              aria-hidden="true"
              className="pointer-events-none absolute -top-1 -bottom-0.5 rounded-lg border-2 border-rim"
              style={{
                left: x(shown.first_step),
                width: x(shown.first_step + shown.steps) - x(shown.first_step),
              }}
            />
          )}
          <svg
            width={width}
            height={height + TOP}
            className="block overflow-visible"
            role="group"
            aria-label={`The level over the trip: ${run.headline}`}
            onPointerMove={(event) => {
              // While something is dragged, what is dragged is what one looks at.
              if (event.buttons === 0) onCursor(at(event));
            }}
          >
            <g transform={`translate(0 ${TOP})`}>
              <g className="pointer-events-none">
                <LevelCurve run={run} scale={scale} floor={floor} now={track?.now_step ?? null} />
                <ReadingMarks entries={props.entries} from={scale.from} to={scale.to} x={x} y={y} />
              </g>
              <rect
                className="cursor-pointer"
                width={width}
                height={height}
                fill="transparent"
                onPointerUp={(event) => onChoose(at(event).day)}
              />
              <line
                x1={x(step)}
                x2={x(step)}
                y2={height}
                stroke="var(--color-rim)"
                strokeOpacity=".45"
              />
              <ReserveHandle
                floor={floor}
                y={y(floor)}
                perPx={100 / high}
                width={width}
                onFloor={board.actions.floor}
              />
              <g transform={`translate(0 ${below})`}>
                <Lanes
                  lanes={lanes}
                  scale={scale}
                  days={run.days.length}
                  fromMin={first * DAY_MIN}
                  onPull={board.actions.pull}
                  onRelease={board.actions.release}
                  onChoose={onChoose}
                />
              </g>
              {told && (
                <CursorHandle
                  x={Math.min(Math.max(x(step), 0), width)}
                  step={step}
                  last={series.volts.length - 1}
                  says={`${told.when}: ${told.level}, ${told.volts}, ${told.amps}, battery at ${told.warmth}, ${told.floor}${told.alone ? `, ${told.alone}` : ""}`}
                  onKeyDown={keys}
                />
              )}
            </g>
          </svg>
          <DayColumns
            scale={scale}
            first={first}
            chosen={chosen}
            floor={floor}
            odds={track?.rest.days ?? null}
            onChoose={onChoose}
          />
        </div>
      </div>
    </section>
  );
}

interface HandleProps {
  x: number;
  step: number;
  last: number;
  says: string;
  onKeyDown: (event: KeyboardEvent) => void;
}

/** The moment that is looked at: arrow keys move it along the day and from day to day. */
function CursorHandle({ x, step, last, says, onKeyDown }: HandleProps) {
  return (
    <path
      role="slider"
      tabIndex={0}
      aria-label="Cursor over the trip"
      aria-valuemin={0}
      aria-valuemax={last}
      aria-valuenow={step}
      aria-valuetext={says}
      d={`M${x},-8l6,6l-6,6l-6,-6z`}
      fill="var(--color-rim)"
      onKeyDown={onKeyDown}
    />
  );
}
