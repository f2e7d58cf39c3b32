import { answer, client, type Plan } from "../api/client";

/** A plain box, begun today where the browser's clock is. */
export function plainPlan(plain: Plan, now: Date, timezone: string): Plan {
  const site = { ...plain.trip.site, timezone: timezone || "UTC" };
  return { ...plain, trip: { ...plain.trip, site, start: now.toISOString().slice(0, 10) } };
}

/** Store a plain plan and go to it. */
export async function beginPlain(): Promise<void> {
  const { fresh } = await answer(client.GET("/api/reference"));
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
  const body = plainPlan(fresh.plan, new Date(), timeZone);
  const made = await answer(client.POST("/api/plans", { body }));
  window.location.assign(`/plan/${made.id}/use`);
}
