import { answer, client, type Plan } from "../api/client";

/** A plain box on three days from today, to begin with. */
export function plainPlan(now: Date): Plan {
  const day = { sky: "usual" as const, place: "" };
  return {
    format: "oddkettle-plan",
    version: 1,
    name: "My box",
    use: {
      appliances: [
        {
          id: "light",
          name: "Light",
          power_w: 8,
          supply: "12v",
          hours: [{ start: "20:00", end: "23:00" }],
          duty_percent: 100,
          figure: "guess",
        },
      ],
    },
    box: {
      system_v: 12,
      battery: { chemistry: "lifepo4", capacity_ah: 100, battery_v: 12, series: 1, parallel: 1 },
      sun: [],
    },
    trip: {
      site: {
        name: "Somewhere",
        latitude: 50,
        longitude: 0,
        altitude_m: 0,
        timezone: Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC",
      },
      start: now.toISOString().slice(0, 10),
      days: [day, day, day],
      blocks: [],
      start_percent: 100,
      floor_percent: 20,
    },
    assumptions: { usual_clearness: 0.68, ambient_c: 15, step_min: 5 },
  };
}

/** Store a plain plan and go to it. */
export async function beginPlain(): Promise<void> {
  const made = await answer(client.POST("/api/plans", { body: plainPlan(new Date()) }));
  window.location.assign(`/plan/${made.id}/use`);
}
