import { answer, client } from "../api/client";

/** Take entries out of a trip's log, one after the other. Throws a Refusal. */
export async function withdraw(planId: number, entries: readonly number[]): Promise<void> {
  for (const entry_id of entries) {
    const path = { plan_id: planId, entry_id };
    await answer(client.DELETE("/api/plans/{plan_id}/log/{entry_id}", { params: { path } }));
  }
}
