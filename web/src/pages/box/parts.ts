import type { Box, Charger, Inverter, Panel, Plan, SunInput } from "../../api/client";

/** A part of the box that has a sheet. */
export type PartKey = "battery" | "dcdc" | "mains" | "inverter" | `sun:${string}`;

export function withBox(plan: Plan, part: Partial<Box>): Plan {
  return { ...plan, box: { ...plan.box, ...part } };
}

export function withSun(plan: Plan, next: SunInput): Plan {
  return withBox(plan, { sun: plan.box.sun.map((old) => (old.id === next.id ? next : old)) });
}

export const FRESH_DCDC: Charger = { limit_a: 30, efficiency_percent: 92 };
export const FRESH_MAINS: Charger = { limit_a: 10, efficiency_percent: 88 };
export const FRESH_INVERTER: Inverter = {
  rating_w: 300,
  idle_w: 6,
  efficiency_percent: 90,
  switched: "with_loads",
};

function panel(id: string, azimuth: number): Panel {
  return {
    id,
    name: "Panel",
    power_w: 100,
    mount: "flat",
    tilt_deg: 35,
    azimuth_deg: azimuth,
    portable: false,
  };
}

function fresh(stem: string, taken: readonly string[]): string {
  for (let n = 1; ; n++) if (!taken.includes(`${stem}${n}`)) return `${stem}${n}`;
}

/** Panels face the equator unless told otherwise. */
function facing(plan: Plan): number {
  return plan.trip.site.latitude < 0 ? 0 : 180;
}

function panelIds(plan: Plan): string[] {
  return plan.box.sun.flatMap((sun) => sun.panels.map((other) => other.id));
}

export function addSun(plan: Plan): [Plan, PartKey] {
  const id = fresh(
    "sun",
    plan.box.sun.map((sun) => sun.id),
  );
  const sun: SunInput = {
    id,
    name: "Solar panel",
    panels: [panel(fresh("panel", panelIds(plan)), facing(plan))],
    controller: { limit_a: 10, efficiency_percent: 96 },
  };
  return [withBox(plan, { sun: [...plan.box.sun, sun] }), `sun:${id}`];
}

export function addPanel(plan: Plan, sun: SunInput): Plan {
  const next = panel(fresh("panel", panelIds(plan)), facing(plan));
  return withSun(plan, { ...sun, panels: [...sun.panels, next] });
}
