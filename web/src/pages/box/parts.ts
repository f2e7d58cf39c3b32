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

type Group = "sun" | "vehicle" | "mains";

/** The group and id of a source's sheet; null for what is no source. */
function sourceOf(part: PartKey): { group: Group; id: string } | null {
  const [group, id] = part.split(":");
  return id !== undefined ? { group: group as Group, id } : null;
}

/** Switch a part off or on; one that is off stays in the plan and does nothing. */
export function switchPart(plan: Plan, part: PartKey): Plan {
  const { box } = plan;
  if (part === "second" && box.second) {
    return withBox(plan, { second: { ...box.second, on: !box.second.on } });
  }
  const source = sourceOf(part);
  if (!source) return plan;
  const flip = <T extends { id: string; on: boolean }>(all: readonly T[]) =>
    all.map((one) => (one.id === source.id ? { ...one, on: !one.on } : one));
  return withBox(plan, { [source.group]: flip<Source>(box[source.group]) });
}
type Source = { id: string; on: boolean };

/** Whether a part does anything. */
export function isOn(box: Box, part: PartKey): boolean {
  if (part === "second") return box.second?.on ?? false;
  const source = sourceOf(part);
  if (!source) return true;
  const all: readonly Source[] = box[source.group];
  return all.find((one) => one.id === source.id)?.on ?? true;
}

/** A second one like a source; returns the plan and its sheet, or null when there is no room. */
export function duplicateSource(plan: Plan, id: string): [Plan, PartKey] | null {
  const { box } = plan;
  const ids = sourcesInOrder(box).map((source) => source.id);
  const named = (name: string) => `${name.slice(0, 72)}, another`;
  const sun = box.sun.find((one) => one.id === id);
  if (sun && canAdd(box, "sun")) {
    const fresh = freshId("sun", ids);
    const taken = box.sun.flatMap((one) => one.panels.map((panel) => panel.id));
    const panels = sun.panels.map((panel) => {
      const panelId = freshId("panel", taken);
      taken.push(panelId);
      return { ...panel, id: panelId };
    });
    const copy = { ...sun, id: fresh, name: named(sun.name), panels };
    return [withBox(plan, { sun: [...box.sun, copy] }), `sun:${fresh}`];
  }
  const vehicle = box.vehicle.find((one) => one.id === id);
  if (vehicle && canAdd(box, "dcdc")) {
    const fresh = freshId("vehicle", ids);
    const copy = { ...vehicle, id: fresh, name: named(vehicle.name) };
    return [withBox(plan, { vehicle: [...box.vehicle, copy] }), `vehicle:${fresh}`];
  }
  const mains = box.mains.find((one) => one.id === id);
  if (mains && canAdd(box, "mains")) {
    const fresh = freshId("mains", ids);
    const copy = { ...mains, id: fresh, name: named(mains.name) };
    return [withBox(plan, { mains: [...box.mains, copy] }), `mains:${fresh}`];
  }
  return null;
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

/** Another panel like one of an array's. */
export function duplicatePanel(plan: Plan, sun: SunInput, panel: Panel): Plan {
  const ids = plan.box.sun.flatMap((one) => one.panels.map((other) => other.id));
  const copy = { ...panel, id: freshId("panel", ids) };
  return withSun(plan, { ...sun, panels: [...sun.panels, copy] });
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
