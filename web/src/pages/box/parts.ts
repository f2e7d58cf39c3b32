import type { Box, Fresh, Mains, Panel, Plan, SunInput, Vehicle } from "../../api/client";

/** A part of the box that has a sheet. */
export type PartKey =
  | "battery"
  | "second"
  | "warmth"
  | "unit"
  | "joining"
  | "inverter"
  | `sun:${string}`
  | `vehicle:${string}`
  | `mains:${string}`;

/** What can be added, in the order in which the menu offers it. */
export const ADDABLE = {
  sun: "panel and controller",
  dcdc: "DC-DC charger",
  relay: "voltage-sensitive relay",
  socket: "vehicle socket",
  trailer: "charger on a trailer lead",
  mains: "mains charger",
  trickle: "trickle charger",
  inverter: "inverter",
  second: "second bank",
  heater: "heater pads",
  unit: "ready-made unit",
} as const;
export type Addable = keyof typeof ADDABLE;

export function withBox(plan: Plan, part: Partial<Box>): Plan {
  return { ...plan, box: { ...plan.box, ...part } };
}

export function withSun(plan: Plan, next: SunInput): Plan {
  return withBox(plan, { sun: replaced(plan.box.sun, next) });
}

export function withVehicle(plan: Plan, next: Vehicle): Plan {
  return withBox(plan, { vehicle: replaced(plan.box.vehicle, next) });
}

export function withMains(plan: Plan, next: Mains): Plan {
  return withBox(plan, { mains: replaced(plan.box.mains, next) });
}

export function replaced<T extends { id: string }>(all: readonly T[], next: T): T[] {
  return all.map((old) => (old.id === next.id ? next : old));
}

/** Every source, in the order in which they are let in: as the user ordered, then as listed. */
export function sourcesInOrder(box: Box): { id: string; name: string; key: PartKey }[] {
  const all = [
    ...box.sun.map((s) => ({ id: s.id, name: s.name, key: `sun:${s.id}` as PartKey })),
    ...box.vehicle.map((s) => ({ id: s.id, name: s.name, key: `vehicle:${s.id}` as PartKey })),
    ...box.mains.map((s) => ({ id: s.id, name: s.name, key: `mains:${s.id}` as PartKey })),
  ];
  const rank = (id: string) => {
    const at = box.order.indexOf(id);
    return at < 0 ? box.order.length : at;
  };
  return all.toSorted((a, b) => rank(a.id) - rank(b.id));
}

/** The plan without one source, and without what names it. */
export function withoutSource(plan: Plan, id: string): Plan {
  const { box } = plan;
  return withBox(plan, {
    sun: box.sun.filter((old) => old.id !== id),
    vehicle: box.vehicle.filter((old) => old.id !== id),
    mains: box.mains.filter((old) => old.id !== id),
    order: box.order.filter((old) => old !== id),
    joining: { ...box.joining, members: box.joining.members.filter((old) => old !== id) },
  });
}

/** Let one source in earlier or later. */
export function moveSource(plan: Plan, id: string, by: number): Plan {
  const order = sourcesInOrder(plan.box).map((source) => source.id);
  const from = order.indexOf(id);
  const to = from + by;
  if (from < 0 || to < 0 || to >= order.length) return plan;
  return withBox(plan, { order: order.toSpliced(from, 1).toSpliced(to, 0, id) });
}

function freshId(stem: string, taken: readonly string[]): string {
  for (let n = 1; ; n++) if (!taken.includes(`${stem}${n}`)) return `${stem}${n}`;
}

/** Panels face the equator unless told otherwise. */
function facing(plan: Plan): number {
  return plan.trip.site.latitude < 0 ? 0 : 180;
}

function freshPanel(plan: Plan, fresh: Fresh): Panel {
  const ids = plan.box.sun.flatMap((sun) => sun.panels.map((other) => other.id));
  return { ...fresh.panel, id: freshId("panel", ids), azimuth_deg: facing(plan) };
}

export function addPanel(plan: Plan, sun: SunInput, fresh: Fresh): Plan {
  return withSun(plan, { ...sun, panels: [...sun.panels, freshPanel(plan, fresh)] });
}

/** Add a part; returns the plan and the part's sheet. */
export function addPart(plan: Plan, what: Addable, fresh: Fresh): [Plan, PartKey] {
  const { box } = plan;
  const ids = sourcesInOrder(box).map((source) => source.id);
  switch (what) {
    case "sun": {
      const id = freshId("sun", ids);
      const sun = { ...fresh.sun, id, panels: [freshPanel(plan, fresh)] };
      return [withBox(plan, { sun: [...box.sun, sun] }), `sun:${id}`];
    }
    case "dcdc":
    case "relay":
    case "socket":
    case "trailer": {
      const id = freshId("vehicle", ids);
      const vehicle = [...box.vehicle, { ...fresh[what], id }];
      return [withBox(plan, { vehicle }), `vehicle:${id}`];
    }
    case "mains":
    case "trickle": {
      const id = freshId("mains", ids);
      return [withBox(plan, { mains: [...box.mains, { ...fresh[what], id }] }), `mains:${id}`];
    }
    case "inverter":
      return [withBox(plan, { inverter: fresh.inverter }), "inverter"];
    case "second": {
      // Batteries in parallel must be of one kind, or the weakest leads.
      const battery = { ...box.battery, datasheet: null };
      return [withBox(plan, { second: { ...fresh.second, battery } }), "second"];
    }
    case "heater":
      return [withBox(plan, { heater: fresh.heater }), "warmth"];
    case "unit":
      return [withBox(plan, { unit: fresh.unit }), "unit"];
  }
}

/** Whether a part is there to be added again. */
export function canAdd(box: Box, what: Addable): boolean {
  switch (what) {
    case "sun":
      return box.sun.length < 6;
    case "dcdc":
    case "relay":
    case "socket":
    case "trailer":
      return box.vehicle.length < 3;
    case "mains":
    case "trickle":
      return box.mains.length < 3;
    default:
      return box[what] == null;
  }
}

/** Whether a sheet's part is still in the box. */
export function exists(box: Box, key: PartKey): boolean {
  if (key === "battery" || key === "warmth" || key === "joining") return true;
  if (key === "second" || key === "unit" || key === "inverter") return box[key] != null;
  return sourcesInOrder(box).some((source) => source.key === key);
}
