import type { RefObject } from "react";
import type { DayReport, Plan } from "../../api/client";
import type { Bench } from "../../app/bench";
import type { Cursor } from "../../app/context";
import { addDay, blockFacts, removeDay, withBlock, withoutBlock, withSpan } from "./blocks";
import type { RowActions } from "./DayRow";

const KEY_PAUSE_MS = 500;

export interface Sheet {
  id: string;
  day: number;
  x: number;
}

interface Latest {
  days: readonly DayReport[];
  onCursor: (cursor: Cursor) => void;
}

/** What a row may do to the plan. Made once, so that rows need not be drawn for its sake. */
export function boardActions(
  bench: Bench,
  latest: RefObject<Latest>,
  timer: RefObject<number | undefined>,
  setSheet: (sheet: Sheet | null) => void,
): RowActions {
  const current = () => bench.snapshot().draft;
  const trip = (part: Partial<Plan["trip"]>): Plan => {
    const now = current();
    return { ...now, trip: { ...now.trip, ...part } };
  };
  const day = (index: number, part: Partial<Plan["trip"]["days"][number]>) =>
    trip({ days: current().trip.days.map((d, i) => (i === index ? { ...d, ...part } : d)) });

  return {
    pull: (block, span) => bench.preview(withBlock(current(), withSpan(block, span))),
    release: (did) => bench.commit(current(), did),
    keyPull: (block, span) => {
      bench.preview(withBlock(current(), withSpan(block, span)));
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(
        () => bench.commit(current(), `moved a ${blockFacts(block.kind).says}`),
        KEY_PAUSE_MS,
      );
    },
    remove: (block) => {
      setSheet(null);
      bench.commit(withoutBlock(current(), block.id), `removed a ${blockFacts(block.kind).says}`);
    },
    open: (block, index, x) => setSheet({ id: block.id, day: index, x }),
    sky: (index, sky) =>
      bench.commit(day(index, { sky, forecast: false, said_on: null }), "changed a sky"),
    place: (index, place) => bench.commit(day(index, { place }), "named a place"),
    stop: (index, stop) => bench.commit(day(index, { stop }), "changed a day’s stop"),
    air: (index, part) => bench.commit(day(index, part), "changed a day’s temperature"),
    kind: (index, kind) => bench.commit(day(index, { kind }), "changed a day’s kind"),
    addDay: (after) => bench.commit(addDay(current(), after), "added a day"),
    removeDay: (index) => bench.commit(removeDay(current(), index), "removed a day"),
    floor: (percent, done) => {
      const next = trip({ floor_percent: percent });
      if (done) bench.commit(next, "moved the floor");
      else bench.preview(next);
    },
    hover: (index, share) => {
      const report = latest.current.days[index];
      if (!report) return;
      const minute = Math.min(Math.max(share, 0), 0.9999) * report.minutes;
      latest.current.onCursor({ day: index, minute: Math.floor(minute / 5) * 5 });
    },
  };
}
