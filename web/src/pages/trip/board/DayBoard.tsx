import type { LogEntry, Plan, RunReport, Track } from "../../../api/client";
import { useWidth } from "../../../drawing/useWidth";
import { type Cursor, useUnit } from "../../../plan/context";
import { dayName } from "../../../quantities/clock";
import { amountIn } from "../../../quantities/units";
import { CursorLine, CursorNote } from "./CursorLine";
import { DayRow } from "./DayRow";
import { NAME_LEFT, NARROW, onPhone, SCALE_LEFT, WIDE } from "./geometry";
import { Hours } from "./Hours";
import { OpenedBlock } from "./OpenedBlock";
import { cursorKeys, useAskedBlock, useBoard } from "./useBoard";

export interface BoardProps {
  plan: Plan;
  run: RunReport;
  entries: readonly LogEntry[];
  /** Where the trip stands, once it is under way. */
  track: Track | null;
  cursor: Cursor;
  onCursor: (cursor: Cursor) => void;
  /** The days shown: a long trip's board is a window on it. */
  first: number;
  count: number;
}

/** One row a day, the hours across: all days beside each other. */
export function DayBoard(props: BoardProps) {
  const { plan, run, entries, track, cursor, onCursor, first, count } = props;
  const unit = useUnit();
  const [plot, width] = useWidth<HTMLDivElement>();
  const shape = width > 0 && onPhone() ? NARROW : WIDE;
  const board = useBoard(plan, run, shape, onCursor);
  useAskedBlock(plot, width > 0, board.setSheet);
  const left = SCALE_LEFT + (shape === WIDE ? NAME_LEFT : 0);
  const most = Math.max(
    ...run.days.map((day) => Math.max(amountIn(day.taken, unit), amountIn(day.used, unit))),
  );
  const dayLabel = dayName(run.days[cursor.day]?.date ?? plan.trip.start, run.days.length > 28);

  return (
    <section className="plate px-2 py-2 sm:px-3" aria-label="Day board">
      <CursorNote cursor={cursor} run={run} label={dayLabel} />
      <div className="grid items-end text-xs text-ash sm:grid-cols-[7.4rem_2.2rem_1fr_14.5rem] sm:gap-x-2">
        <span className="hidden sm:block">day</span>
        <span className="hidden sm:block" />
        <div className="min-w-0 pl-[42px]">
          <div ref={plot} className="relative h-5 min-w-0">
            {width > 0 && <Hours width={width} every={shape === NARROW ? 6 : 3} />}
          </div>
        </div>
        <span className="hidden grid-cols-[1fr_1fr_1fr_1.15fr] gap-x-2 px-1 text-right sm:grid">
          <span>in {unit}</span>
          <span>out</span>
          <span>net</span>
          <span>lowest</span>
        </span>
      </div>
      <div className="relative flex flex-col gap-1.5">
        {width > 0 &&
          run.days.map((day, index) =>
            index < first || index >= first + count ? null : (
              <div key={day.date} className="relative">
                <DayRow
                  taken={board.taken}
                  index={index}
                  day={day}
                  plan={plan}
                  run={run}
                  width={width}
                  shape={shape}
                  perAmp={board.perAmp}
                  most={most}
                  entries={entries}
                  track={track}
                  actions={board.actions}
                />
                <OpenedBlock plan={plan} track={track} board={board} day={index} left={left} />
              </div>
            ),
          )}
        {width > 0 && cursor.day >= first && cursor.day < first + count && (
          <CursorLine
            cursor={cursor}
            run={run}
            left={left}
            width={width}
            onKeyDown={cursorKeys(cursor, run.days.length, onCursor)}
            label={dayLabel}
          />
        )}
      </div>
    </section>
  );
}
