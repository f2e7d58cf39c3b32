import type { Appliance, Hours, Plan, ShelfItem } from "../../../api/client";
import { clockOf, DAY_MIN, minutesOf } from "../../../quantities/clock";

/** Where the axis begins: at noon, so that the night is in one piece. */
export const AXIS_START_MIN = 720;
export const SNAP_MIN = 5;
export type Grip = "body" | "start" | "end";

/** A daily window on the noon axis: `from` in 0..1440, `length` in 5..1440 minutes. */
export interface Stretch {
  from: number;
  length: number;
}

export function stretchOf(hours: Hours): Stretch {
  const start = minutesOf(hours.start) % DAY_MIN;
  const length = (minutesOf(hours.end) - start + 2 * DAY_MIN) % DAY_MIN || DAY_MIN;
  // All day has no beginning: its handles stand at the ends of the axis.
  return { from: length === DAY_MIN ? 0 : axisMin(start), length };
}

export function hoursOf(stretch: Stretch): Hours {
  if (stretch.length >= DAY_MIN) return { start: "00:00", end: "24:00" };
  const start = (stretch.from + AXIS_START_MIN) % DAY_MIN;
  const end = (start + stretch.length) % DAY_MIN;
  return { start: clockOf(start), end: clockOf(end || DAY_MIN) };
}

/** Minutes from noon of minutes after midnight. */
export function axisMin(minute: number): number {
  return (minute - AXIS_START_MIN + DAY_MIN) % DAY_MIN;
}

/** The pieces of a stretch that can be drawn: two when it passes noon. */
export function pieces(stretch: Stretch): { from: number; to: number }[] {
  const to = stretch.from + stretch.length;
  if (to <= DAY_MIN) return [{ from: stretch.from, to }];
  return [
    { from: stretch.from, to: DAY_MIN },
    { from: 0, to: to - DAY_MIN },
  ];
}

/** Move or stretch by some minutes, snapped; a day is the longest, one snap the shortest. */
export function pulled(stretch: Stretch, grip: Grip, byMin: number): Stretch {
  const snap = (minute: number) => Math.round(minute / SNAP_MIN) * SNAP_MIN;
  const wrap = (minute: number) => ((minute % DAY_MIN) + DAY_MIN) % DAY_MIN;
  const within = (length: number) => Math.min(Math.max(length, SNAP_MIN), DAY_MIN);
  if (grip === "body") {
    return { from: wrap(snap(stretch.from + byMin)), length: stretch.length };
  }
  const end = stretch.from + stretch.length;
  if (grip === "end") {
    return { from: stretch.from, length: within(snap(end + byMin) - stretch.from) };
  }
  const length = within(end - snap(stretch.from + byMin));
  return { from: wrap(end - length), length };
}

export type DayKind = Plan["trip"]["days"][number]["kind"];
export const KIND_SAYS: Record<DayKind, string> = {
  site: "on site",
  drive: "driving days",
  rest: "rest days",
};

/** An appliance's hours on a kind of day: its own for it, or those on site. */
export function hoursFor(appliance: Appliance, kind: DayKind): Hours[] {
  return (kind === "site" ? null : appliance[`${kind}_hours`]) ?? appliance.hours;
}

/** The appliance with other hours on a kind of day; null is as on site. */
export function withHoursFor(
  appliance: Appliance,
  kind: DayKind,
  hours: Hours[] | null,
): Appliance {
  if (kind !== "site") return { ...appliance, [`${kind}_hours`]: hours };
  return hours ? { ...appliance, hours } : appliance;
}

/** Another appliance like one, right after it. */
export function duplicateAppliance(plan: Plan, id: string): Plan {
  const at = plan.use.appliances.findIndex((old) => old.id === id);
  const found = plan.use.appliances[at];
  if (!found || plan.use.appliances.length >= MAX_APPLIANCES) return plan;
  const taken = new Set(plan.use.appliances.map((old) => old.id));
  let fresh = `${id.slice(0, 36)}-2`;
  for (let n = 3; taken.has(fresh); n++) fresh = `${id.slice(0, 36)}-${n}`;
  const copy = { ...found, id: fresh, name: `${found.name.slice(0, 70)}, another` };
  const appliances = plan.use.appliances.toSpliced(at + 1, 0, copy);
  return { ...plan, use: { ...plan.use, appliances } };
}
const MAX_APPLIANCES = 60;

export function withAppliance(plan: Plan, next: Appliance): Plan {
  const appliances = plan.use.appliances.map((old) => (old.id === next.id ? next : old));
  return { ...plan, use: { ...plan.use, appliances } };
}

export function withoutAppliance(plan: Plan, id: string): Plan {
  const appliances = plan.use.appliances.filter((old) => old.id !== id);
  return { ...plan, use: { ...plan.use, appliances } };
}

/** Put one appliance into another's place. */
export function moveAppliance(plan: Plan, id: string, to: number): Plan {
  const from = plan.use.appliances.findIndex((old) => old.id === id);
  const moved = plan.use.appliances[from];
  if (!moved || to < 0 || to >= plan.use.appliances.length || to === from) return plan;
  const appliances = plan.use.appliances.toSpliced(from, 1).toSpliced(to, 0, moved);
  return { ...plan, use: { ...plan.use, appliances } };
}

/** Add a shelf item under an id of its own; returns the plan and that id. */
export function addFromShelf(
  plan: Plan,
  item: Pick<ShelfItem, "label" | "appliance">,
): [Plan, string] {
  const taken = new Set(plan.use.appliances.map((old) => old.id));
  const stem = item.label
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .slice(0, 30);
  let id = stem;
  for (let n = 2; taken.has(id); n++) id = `${stem}-${n}`;
  const appliances = [...plan.use.appliances, { ...item.appliance, id }];
  return [{ ...plan, use: { ...plan.use, appliances } }, id];
}
