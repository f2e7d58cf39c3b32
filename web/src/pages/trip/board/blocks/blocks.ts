import type { Block, BlockKind, Plan } from "../../../../api/client";
import { clockOf, DAY_MIN, minutesOf } from "../../../../quantities/clock";
import { SOURCES, sourceOfBlock, sourcesOf } from "../../../../sources";

/** The grid to which dragged edges snap, minutes. */
export const SNAP_MIN = 5;

/** A kind of block: its name, how long a new one is and when it begins, in minutes. */
interface Fresh {
  text: string;
  minutes: number;
  start: number;
}
/** Kinds that no source works in. */
const OTHER_KINDS: Partial<Record<BlockKind, Fresh>> = {
  panel_out: { text: "panel out", minutes: 480, start: 540 },
  quiet: { text: "quiet", minutes: 120, start: 1200 },
  outage: { text: "outage", minutes: 480, start: 1080 },
  second_bank: { text: "second bank", minutes: 1440, start: 0 },
};
const UNKNOWN: Fresh = { text: "block", minutes: 60, start: 600 };

/** What is known of a kind of block, from its source's kind or from here. */
export function blockFacts(kind: BlockKind): Fresh {
  return sourceOfBlock(kind)?.block ?? OTHER_KINDS[kind] ?? UNKNOWN;
}

/** A stretch of local minutes counted from the trip's first midnight. */
export interface Span {
  from: number;
  to: number;
}

export function spanOf(block: Block): Span {
  return {
    from: block.day * DAY_MIN + minutesOf(block.start),
    to: (block.end_day ?? block.day) * DAY_MIN + minutesOf(block.end),
  };
}

/** The block with another span. An end at midnight is written as 24:00 of the day it closes. */
export function withSpan(block: Block, span: Span): Block {
  const day = Math.floor(span.from / DAY_MIN);
  const endDay = Math.floor((span.to - 1) / DAY_MIN);
  return {
    ...block,
    day,
    start: clockOf(span.from - day * DAY_MIN),
    end_day: endDay === day ? null : endDay,
    end: clockOf(span.to - endDay * DAY_MIN),
  };
}

export type Grip = "body" | "start" | "end";

/** Move or stretch a span by some minutes, snapped, at least one snap long, inside the trip. */
export function pulled(span: Span, grip: Grip, byMin: number, days: number): Span {
  const last = days * DAY_MIN;
  const snap = (minute: number) => Math.round(minute / SNAP_MIN) * SNAP_MIN;
  if (grip === "start") {
    const from = Math.min(Math.max(snap(span.from + byMin), 0), span.to - SNAP_MIN);
    return { from, to: span.to };
  }
  if (grip === "end") {
    const to = Math.max(Math.min(snap(span.to + byMin), last), span.from + SNAP_MIN);
    return { from: span.from, to };
  }
  const length = span.to - span.from;
  const from = Math.min(Math.max(snap(span.from + byMin), 0), last - length);
  return { from, to: from + length };
}

/** The part of a span that lies in one day, in minutes of that day, or null. */
export function partOnDay(span: Span, day: number): Span | null {
  const from = Math.max(span.from - day * DAY_MIN, 0);
  const to = Math.min(span.to - day * DAY_MIN, DAY_MIN);
  return to > from ? { from, to } : null;
}

export function withBlock(plan: Plan, block: Block): Plan {
  const blocks = plan.trip.blocks.map((old) => (old.id === block.id ? block : old));
  return { ...plan, trip: { ...plan.trip, blocks } };
}

export function withoutBlock(plan: Plan, id: string): Plan {
  const blocks = plan.trip.blocks.filter((block) => block.id !== id);
  return { ...plan, trip: { ...plan.trip, blocks } };
}

/** The kinds of block that this plan can make use of. */
export function usefulKinds(plan: Plan): BlockKind[] {
  const { box, trip, use } = plan;
  const kinds: BlockKind[] = SOURCES.flatMap(({ key, block, always }) =>
    block && (always || box[key].length > 0) ? [block.kind] : [],
  );
  kinds.push("panel_out");
  if (trip.kind === "standby") kinds.push("outage");
  if (box.second && !box.second.always) kinds.push("second_bank");
  const loud = sourcesOf(box).some((one) => ("noisy" in one ? one.noisy : one.quiet_rule));
  if (loud || use.appliances.some((part) => part.noisy)) kinds.push("quiet");
  return kinds;
}

/** A name that no sibling has yet. */
export function freshId(prefix: string, taken: readonly string[]): string {
  for (let n = 1; ; n++) {
    const id = `${prefix}${n}`;
    if (!taken.includes(id)) return id;
  }
}

/** Add a block on a day, beginning at `minute` or at a usual hour. */
export function addBlock(plan: Plan, kind: BlockKind, day: number, minute?: number): [Plan, Block] {
  const last = plan.trip.days.length * DAY_MIN;
  const from = day * DAY_MIN + (minute ?? blockFacts(kind).start);
  const bare: Block = {
    id: freshId(
      kind[0] ?? "b",
      plan.trip.blocks.map((block) => block.id),
    ),
    kind,
    day,
    start: "00:00",
    end_day: null,
    end: "24:00",
    idling: false,
  };
  const start = Math.min(from, last - SNAP_MIN);
  const block = withSpan(bare, {
    from: start,
    to: Math.min(start + blockFacts(kind).minutes, last),
  });
  const blocks = [...plan.trip.blocks, block];
  return [{ ...plan, trip: { ...plan.trip, blocks } }, block];
}

/** Add a day after another; its sky and place are those of the day before. Later blocks move. */
export function addDay(plan: Plan, after: number): Plan {
  const { days, blocks } = plan.trip;
  const copy = days[after] ?? { sky: "usual", place: "", kind: "site", forecast: false };
  const moved = blocks.map((block) => shiftFrom(block, after + 1, 1));
  return {
    ...plan,
    trip: { ...plan.trip, days: days.toSpliced(after + 1, 0, copy), blocks: moved },
  };
}

/** Take a day out with what begins in it; later blocks move up, ones reaching in are cut. */
export function removeDay(plan: Plan, day: number): Plan {
  const { days, blocks } = plan.trip;
  if (days.length === 1) return plan;
  const kept = blocks
    .filter((block) => block.day !== day)
    .map((block) => {
      const endDay = block.end_day ?? block.day;
      const cut =
        block.day < day && endDay === day ? { ...block, end_day: day - 1, end: "24:00" } : block;
      return shiftFrom(cut, day + 1, -1);
    });
  return { ...plan, trip: { ...plan.trip, days: days.toSpliced(day, 1), blocks: kept } };
}

function shiftFrom(block: Block, from: number, by: number): Block {
  const endDay = block.end_day ?? block.day;
  const day = block.day >= from ? block.day + by : block.day;
  const end = endDay >= from ? endDay + by : endDay;
  return { ...block, day, end_day: end === day ? null : end };
}
