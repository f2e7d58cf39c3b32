import type { Box, Fresh, Panel, Plan, SunInput } from "../../api/client";
import { MAX_ENTRIES } from "../../api/limits.gen";
import { GROUPS, type SourceGroup, type SourcePart } from "../../sources";

/** A part of the box that has a sheet. */
export type PartKey =
  | "battery"
  | "second"
  | "warmth"
  | "unit"
  | "joining"
  | "inverter"
  | "converter"
  | `${SourceGroup}:${string}`;

/** What can be added besides sources. */
export const OTHER_PARTS = {
  inverter: "inverter",
  converter: "12 V converter",
  second: "second bank",
  heater: "heater pads",
  unit: "ready-made unit",
} as const;
type OtherPart = keyof typeof OTHER_PARTS;

/** What can be added, in the order in which the menu offers it: a key and what it is called. */
export function addable(fresh: Fresh): [key: string, text: string][] {
  return [
    ...fresh.sources.map(({ text }): [string, string] => [text, text]),
    ...(Object.entries(OTHER_PARTS) as [string, string][]),
  ];
}

export function withBox(plan: Plan, part: Partial<Box>): Plan {
  return { ...plan, box: { ...plan.box, ...part } };
}

/** The plan with a source as it is now. */
export function withSource(plan: Plan, group: SourceGroup, next: SourcePart): Plan {
  return withBox(plan, { [group]: replaced<SourcePart>(plan.box[group], next) });
}

export function replaced<T extends { id: string }>(all: readonly T[], next: T): T[] {
  return all.map((old) => (old.id === next.id ? next : old));
}

/** Every source, in the order in which they are let in: as the user ordered, then as listed. */
export function sourcesInOrder(box: Box): { id: string; name: string; key: PartKey }[] {
  const all = GROUPS.flatMap((group) =>
    (box[group] as SourcePart[]).map(({ id, name }) => ({
      id,
      name,
      key: `${group}:${id}` as PartKey,
    })),
  );
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
    ...Object.fromEntries(
      GROUPS.map((group) => [group, (box[group] as SourcePart[]).filter((old) => old.id !== id)]),
    ),
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

/** The group and id of a source's sheet; null for what is no source. */
function sourceOf(part: PartKey): { group: SourceGroup; id: string } | null {
  const [group, id] = part.split(":");
  return id !== undefined ? { group: group as SourceGroup, id } : null;
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
  return withBox(plan, { [source.group]: flip<SourcePart>(box[source.group]) });
}

/** Whether a part does anything. */
export function isOn(box: Box, part: PartKey): boolean {
  if (part === "second") return box.second?.on ?? false;
  const source = sourceOf(part);
  if (!source) return true;
  const all: readonly SourcePart[] = box[source.group];
  return all.find((one) => one.id === source.id)?.on ?? true;
}

/** A second one like a source; returns the plan and its sheet, or null when there is no room. */
export function duplicateSource(plan: Plan, id: string): [Plan, PartKey] | null {
  const { box } = plan;
  const group = GROUPS.find((one) => (box[one] as SourcePart[]).some((s) => s.id === id));
  const source = group && (box[group] as SourcePart[]).find((one) => one.id === id);
  if (!group || !source || !hasRoom(box, group)) return null;
  const named = { ...source, name: `${source.name.slice(0, 72)}, another` };
  return withNew(plan, group, named);
}

/** The plan with one more source, under ids of its own, and its sheet. */
function withNew(plan: Plan, group: SourceGroup, part: SourcePart): [Plan, PartKey] {
  const { box } = plan;
  const id = freshId(
    group,
    sourcesInOrder(box).map((source) => source.id),
  );
  const taken = box.sun.flatMap((one) => one.panels.map((panel) => panel.id));
  const own =
    "panels" in part
      ? {
          panels: part.panels.map((panel) => {
            const panelId = freshId("panel", taken);
            taken.push(panelId);
            return { ...panel, id: panelId };
          }),
        }
      : {};
  return [withBox(plan, { [group]: [...box[group], { ...part, ...own, id }] }), `${group}:${id}`];
}

function hasRoom(box: Box, group: SourceGroup): boolean {
  return box[group].length < MAX_ENTRIES[`Box.${group}`];
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
  return withSource(plan, "sun", { ...sun, panels: [...sun.panels, freshPanel(plan, fresh)] });
}

/** Another panel like one of an array's. */
export function duplicatePanel(plan: Plan, sun: SunInput, panel: Panel): Plan {
  const ids = plan.box.sun.flatMap((one) => one.panels.map((other) => other.id));
  const copy = { ...panel, id: freshId("panel", ids) };
  return withSource(plan, "sun", { ...sun, panels: [...sun.panels, copy] });
}

/** Add a part; returns the plan and the part's sheet. */
export function addPart(plan: Plan, what: string, fresh: Fresh): [Plan, PartKey] {
  const { box } = plan;
  const source = fresh.sources.find((one) => one.text === what);
  if (source) {
    const needed = fresh.sources.find((one) => one.group === source.needs);
    if (needed && box[needed.group as SourceGroup].length === 0) {
      // A generator works through a mains charger: one that it has not got comes with it.
      const [before] = withNew(plan, needed.group as SourceGroup, needed.part);
      return addPart(before, what, fresh);
    }
    const part =
      "panels" in source.part
        ? {
            ...source.part,
            panels: source.part.panels.map((one) => ({ ...one, azimuth_deg: facing(plan) })),
          }
        : source.part;
    return withNew(plan, source.group as SourceGroup, part);
  }
  switch (what as OtherPart) {
    case "inverter":
      return [withBox(plan, { inverter: fresh.inverter }), "inverter"];
    case "converter":
      return [withBox(plan, { converter: fresh.converter }), "converter"];
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
export function canAdd(box: Box, what: string, fresh: Fresh): boolean {
  const source = fresh.sources.find((one) => one.text === what);
  if (source) return hasRoom(box, source.group as SourceGroup);
  // A box of 12 V has nothing to step down.
  if (what === "converter" && box.system_v <= 12) return false;
  return box[what as OtherPart] == null;
}

/** Whether a sheet's part is still in the box. */
export function exists(box: Box, key: PartKey): boolean {
  if (key === "battery" || key === "warmth" || key === "joining") return true;
  if (key === "second" || key === "unit" || key === "inverter" || key === "converter")
    return box[key] != null;
  return sourcesInOrder(box).some((source) => source.key === key);
}
