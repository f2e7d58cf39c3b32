import type { RefObject } from "react";
import type { DayReport, Plan } from "../../../api/client";
import type { Cursor } from "../../../plan/context";
import type { PlanStore } from "../../../plan/planStore";
import { addDay, blockFacts, removeDay, withBlock, withoutBlock, withSpan } from "./blocks/blocks";
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
  store: PlanStore,
  latest: RefObject<Latest>,
  timer: RefObject<number | undefined>,
  setSheet: (sheet: Sheet | null) => void,
): RowActions {
  const current = () => store.snapshot().draft;
  const trip = (part: Partial<Plan["trip"]>): Plan => {
    const now = current();
    return { ...now, trip: { ...now.trip, ...part } };
  };
  const day = (index: number, part: Partial<Plan["trip"]["days"][number]>) =>
    trip({ days: current().trip.days.map((d, i) => (i === index ? { ...d, ...part } : d)) });

  return {
    pull: (block, span) => store.preview(withBlock(current(), withSpan(block, span))),
    release: (did) => store.commit(current(), did),
    keyPull: (block, span) => {
      store.preview(withBlock(current(), withSpan(block, span)));
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(
        () => store.commit(current(), `moved a ${blockFacts(block.kind).text}`),
        KEY_PAUSE_MS,
      );
    },
    remove: (block) => {
      setSheet(null);
      store.commit(withoutBlock(current(), block.id), `removed a ${blockFacts(block.kind).text}`);
    },
    open: (block, index, x) => setSheet({ id: block.id, day: index, x }),
    sky: (index, sky) =>
      store.commit(day(index, { sky, forecast: false, said_on: null }), "changed a sky"),
    place: (index, place) => store.commit(day(index, { place }), "named a place"),
    stop: (index, stop) => store.commit(day(index, { stop }), "changed a day’s stop"),
    air: (index, part) => store.commit(day(index, part), "changed a day’s temperature"),
    kind: (index, kind) => store.commit(day(index, { kind }), "changed a day’s kind"),
    addDay: (after) => store.commit(addDay(current(), after), "added a day"),
    removeDay: (index) => store.commit(removeDay(current(), index), "removed a day"),
    floor: (percent, done) => {
      const next = trip({ floor_percent: percent });
      if (done) store.commit(next, "moved the reserve");
      else store.preview(next);
    },
    hover: (index, share) => {
      const report = latest.current.days[index];
      if (!report) return;
      const minute = Math.min(Math.max(share, 0), 0.9999) * report.minutes;
      latest.current.onCursor({ day: index, minute: Math.floor(minute / 5) * 5 });
    },
  };
}
