import { type PointerEvent, useRef } from "react";
import { useWidth } from "../../../drawing/useWidth";
import { useUnit } from "../../../plan/context";
import { Figure } from "../../../plan/sums";
import { dayName } from "../../../quantities/clock";
import { degreesText } from "../../../quantities/habits";
import { amountText } from "../../../quantities/units";
import { useHabits } from "../../../quantities/useHabits";
import { Button } from "../../../ui/Button";
import { CursorNote } from "../board/CursorLine";
import type { BoardProps } from "../board/DayBoard";
import { DayCanvas } from "../board/DayCanvas";
import { DayMenu } from "../board/DayMenu";
import { ALONE, ALONE_NARROW, onPhone, SCALE_LEFT } from "../board/geometry";
import { Hours } from "../board/Hours";
import { OpenedBlock } from "../board/OpenedBlock";
import { SkyMark } from "../board/SkyMark";
import { useAskedBlock, type useBoard } from "../board/useBoard";

/** So far a finger goes sideways before the day is turned like a page. */
const SWIPE_PX = 60;

interface Props extends BoardProps {
  chosen: number;
  board: ReturnType<typeof useBoard>;
  onChoose: (day: number) => void;
  onAllDays: () => void;
}

/** The chosen day by itself, large enough for its blocks to be dragged to the minute. */
export function DayAlone(props: Props) {
  const { plan, run, entries, track, cursor, chosen, board, onChoose, onAllDays } = props;
  const [plot, width] = useWidth<HTMLDivElement>();
  const habits = useHabits();
  const unit = useUnit();
  useAskedBlock(plot, width > 0, board.setSheet);
  const touched = useRef<{ x: number; y: number } | null>(null);
  const day = run.days[chosen];
  if (!day) return null;
  const label = dayName(day.date, run.days.length > 28);
  const planned = plan.trip.days[chosen];
  const under = run.odds?.days[chosen]?.under_percent ?? 0;
  const shape = onPhone() ? ALONE_NARROW : ALONE;
  const turn = (by: number) => onChoose(Math.min(Math.max(chosen + by, 0), run.days.length - 1));
  const cursorLabel = dayName(run.days[cursor.day]?.date ?? day.date, run.days.length > 28);

  function lift(event: PointerEvent) {
    const from = touched.current;
    touched.current = null;
    if (!from || event.pointerType !== "touch") return;
    const dx = event.clientX - from.x;
    if (Math.abs(dx) > SWIPE_PX && Math.abs(dx) > 2 * Math.abs(event.clientY - from.y))
      turn(dx < 0 ? 1 : -1);
  }

  return (
    <section
      className="plate relative mt-3 px-3 py-2 sm:px-4"
      aria-label="The chosen day"
      data-day={chosen}
    >
      <div
        className="flex touch-pan-y flex-wrap items-center gap-x-2"
        onPointerDown={(event) => {
          touched.current = { x: event.clientX, y: event.clientY };
        }}
        onPointerUp={lift}
        onPointerCancel={() => {
          touched.current = null;
        }}
      >
        <Button
          look="bare"
          className="turn"
          aria-label="The day before"
          disabled={chosen === 0}
          onClick={() => turn(-1)}
        >
          ‹
        </Button>
        <DayMenu
          label={label}
          place={planned?.place ?? ""}
          day={planned}
          report={day}
          index={chosen}
          only={plan.trip.days.length === 1}
          stops={plan.trip.stops}
          actions={board.actions}
          inLine
        />
        <Button
          look="bare"
          className="turn"
          aria-label="The day after"
          disabled={chosen >= run.days.length - 1}
          onClick={() => turn(1)}
        >
          ›
        </Button>
        <SkyMark
          sky={planned?.sky ?? "usual"}
          label={label}
          index={chosen}
          onChange={board.actions.sky}
        />
        <p className="text-ash max-sm:order-last max-sm:w-full" data-testid="day-figures">
          {planned?.place && <span className="sm:hidden">{planned.place} · </span>}
          {degreesText(day.air_low_c, habits, false)} to {degreesText(day.air_high_c, habits)} ·{" "}
          <Figure of="ledger" day={chosen}>
            <span className="sr-only">{`${label}, ${unit}: `}</span>
            {amountText(day.taken, unit)} in, {amountText(day.used, unit)} out
          </Figure>
          , net {amountText(day.net, unit, true)} {unit}
          {under >= 1 && (
            <>
              {" · "}
              {track ? (
                <span data-testid="day-odds">{belowText(under)}</span>
              ) : (
                <Figure of="odds" day={chosen} testId="day-odds">
                  {belowText(under)}
                </Figure>
              )}
            </>
          )}
        </p>
        <Button look="link" className="ml-auto min-h-9" onClick={onAllDays}>
          all days
        </Button>
      </div>
      <div style={{ paddingLeft: SCALE_LEFT }}>
        <div ref={plot} className="relative min-w-0">
          {width > 0 && (
            <>
              <DayCanvas
                taken={board.taken}
                index={chosen}
                day={day}
                plan={plan}
                run={run}
                width={width}
                shape={shape}
                perAmp={board.perAmp}
                entries={entries}
                track={track}
                actions={board.actions}
                tab={false}
              />
              {cursor.day === chosen && (
                <div
                  aria-hidden="true"
                  className="pointer-events-none absolute top-0 w-0.5 -translate-x-px bg-rim/60"
                  style={{ left: (cursor.minute / day.minutes) * width, height: shape.height }}
                />
              )}
              <div className="relative h-5 text-xs text-ash">
                <Hours width={width} every={onPhone() ? 6 : 3} />
              </div>
            </>
          )}
        </div>
        <OpenedBlock plan={plan} track={track} board={board} day={chosen} left={SCALE_LEFT} />
      </div>
      <CursorNote cursor={cursor} run={run} label={cursorLabel} />
    </section>
  );
}

/** How often a day goes below the reserve, as a person says it. */
function belowText(percent: number): string {
  return percent >= 95
    ? "below your reserve almost always"
    : `below your reserve in ${Math.max(Math.round(percent), 1)} of 100 tries`;
}
