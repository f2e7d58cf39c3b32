import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { Block, LogEntry, Plan, RunReport, Track } from "../../../api/client";
import { useWidth } from "../../../drawing/useWidth";
import { type Cursor, usePlanStore, useUnit } from "../../../plan/context";
import { DAY_MIN, dayName, minutesOf } from "../../../quantities/clock";
import { hourText } from "../../../quantities/habits";
import { amountIn } from "../../../quantities/units";
import { useHabits } from "../../../quantities/useHabits";
import { GROUPS, takenBy } from "../../../sources";
import { BlockSheet } from "./blocks/BlockSheet";
import { blockFacts, withBlock } from "./blocks/blocks";
import { boardActions } from "./boardActions";
import { CursorLine, CursorNote } from "./CursorLine";
import { DayRow } from "./DayRow";
import { NARROW, WIDE } from "./geometry";

interface Props {
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

const USE_SHARE = 0.97;

/** One row a day, the hours across: the heart of the Trip page. */
export function DayBoard(props: Props) {
  const { plan, run, entries, track, cursor, onCursor, first, count } = props;
  const store = usePlanStore();
  const unit = useUnit();
  const [plot, width] = useWidth<HTMLDivElement>();
  const [sheet, setSheet] = useState<{ id: string; day: number; x: number } | null>(null);
  const timer = useRef<number | undefined>(undefined);
  const shape = width > 0 && window.innerWidth <= 640 ? NARROW : WIDE;
  const { series } = run;

  const taken = useMemo(
    () => new Map(series ? GROUPS.map((group) => [group, takenBy(series, plan.box, group)]) : []),
    [series, plan.box],
  );
  const perAmp = useMemo(() => {
    if (!series) return 1;
    const sun = (taken.get("sun") ?? []).reduce((most, a) => Math.max(most, a), 1);
    // A kettle's minutes may leave the row: scaled to them, nothing else could be seen.
    const use = Math.max(quantile(series.load_a, USE_SHARE), 1);
    return Math.min(shape.sunHeight / sun, shape.useHeight / use);
  }, [series, taken, shape]);
  const most = Math.max(
    ...run.days.map((day) => Math.max(amountIn(day.taken, unit), amountIn(day.used, unit))),
  );

  const latest = useRef({ days: run.days, onCursor });
  latest.current = { days: run.days, onCursor };
  const actions = useMemo(() => boardActions(store, latest, timer, setSheet), [store]);

  function keys(event: KeyboardEvent) {
    const step = event.shiftKey || event.ctrlKey ? 60 : 5;
    const by = {
      ArrowLeft: -step,
      ArrowRight: step,
      ArrowUp: -DAY_MIN,
      ArrowDown: DAY_MIN,
    }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const last = run.days.length * DAY_MIN - 5;
    const at = Math.min(Math.max(cursor.day * DAY_MIN + cursor.minute + by, 0), last);
    onCursor({ day: Math.floor(at / DAY_MIN), minute: at % DAY_MIN });
  }

  const dayLabel = dayName(run.days[cursor.day]?.date ?? plan.trip.start, run.days.length > 28);
  const asked = useSearchParams()[0].get("block");
  const wide = width > 0;
  useEffect(() => {
    // Today sends people here for other hours of one block: its sheet is open then.
    const block = store.snapshot().draft.trip.blocks.find((one) => one.id === asked);
    const share = block ? minutesOf(block.start) / DAY_MIN : 0;
    const room = plot.current?.clientWidth ?? 0;
    if (wide && block) setSheet({ id: block.id, day: block.day, x: share * room });
  }, [asked, wide, store, plot]);
  const opened: Block | undefined = plan.trip.blocks.find((block) => block.id === sheet?.id);

  return (
    <section className="plate px-2 py-2 sm:px-3" aria-label="Day board">
      <CursorNote cursor={cursor} run={run} label={dayLabel} />
      <div className="grid items-end text-xs text-ash sm:grid-cols-[7.4rem_2.2rem_1fr_14.5rem] sm:gap-x-2">
        <span className="hidden sm:block">day</span>
        <span className="hidden sm:block" />
        <div ref={plot} className="relative h-5 min-w-0">
          {width > 0 && <Hours width={width} every={shape === NARROW ? 6 : 3} />}
        </div>
        <span className="hidden grid-cols-[1fr_1fr_1fr_1.15fr] gap-x-2 px-1 text-right sm:grid">
          <span>in {unit}</span>
          <span>out</span>
          <span>net</span>
          <span>lowest</span>
        </span>
      </div>
      <div className="relative flex flex-col gap-[3px]">
        {width > 0 &&
          run.days.map((day, index) =>
            index < first || index >= first + count ? null : (
              <div key={day.date} className="relative">
                <DayRow
                  taken={taken}
                  index={index}
                  day={day}
                  plan={plan}
                  run={run}
                  width={width}
                  shape={shape}
                  perAmp={perAmp}
                  most={most}
                  entries={entries}
                  track={track}
                  actions={actions}
                />
                {opened && sheet?.day === index && (
                  <BlockSheet
                    block={opened}
                    plan={plan}
                    x={sheet.x + (shape === WIDE ? 165 : 0)}
                    told={track?.blocks?.find((one) => one.key === opened.id)}
                    onChange={(block) =>
                      store.commit(
                        withBlock(store.snapshot().draft, block),
                        `retimed a ${blockFacts(block.kind).text}`,
                      )
                    }
                    onRemove={() => actions.remove(opened)}
                    onClose={() => setSheet(null)}
                  />
                )}
              </div>
            ),
          )}
        {width > 0 && cursor.day >= first && cursor.day < first + count && (
          <CursorLine
            cursor={cursor}
            run={run}
            left={shape === WIDE ? 166 : 0}
            width={width}
            onKeyDown={keys}
            label={dayLabel}
          />
        )}
      </div>
    </section>
  );
}

/** The value that `share` of all values do not exceed. */
function quantile(values: readonly number[], share: number): number {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[Math.floor(share * (sorted.length - 1))] ?? 0;
}

function Hours({ width, every }: { width: number; every: number }) {
  const habits = useHabits();
  return Array.from({ length: 24 / every + 1 }, (_, i) => i * every).map((hour) => (
    <span
      key={hour}
      className="absolute -translate-x-1/2"
      style={{ left: Math.min(Math.max((hour / 24) * width, 7), width - 7) }}
    >
      {hourText(hour, habits)}
    </span>
  ));
}
