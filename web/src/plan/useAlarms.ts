import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Schemas } from "../api/client";
import { usePlanPart } from "./context";

export type Alarm = Schemas["Alarm"];
const AGAIN_MS = 60_000;
const NONE: readonly Alarm[] = [];
const TOLD = "oddkettle.told";
const MAX_TOLD = 200;

/** The alarms of the plan that is open; none before its trip has begun. */
export function useAlarms(begun: boolean): {
  alarms: readonly Alarm[];
  see: (key: string) => Promise<void>;
} {
  const id = usePlanPart((state) => state.plan.id);
  const revision = usePlanPart((state) => state.plan.revision);
  const queries = useQueryClient();
  const path = { plan_id: id };
  const found = useQuery({
    queryKey: ["alarms", id, revision],
    enabled: begun,
    refetchInterval: AGAIN_MS,
    placeholderData: (before) => before,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/alarms", { params: { path } })),
  });
  const alarms = found.data ?? NONE;
  useEffect(() => {
    for (const alarm of alarms) void tell(id, alarm);
  }, [id, alarms]);
  async function see(key: string) {
    const stand = await answer(
      client.POST("/api/plans/{plan_id}/alarms/seen", { params: { path }, body: { key } }),
    );
    queries.setQueryData(["alarms", id, revision], stand);
  }
  return { alarms, see };
}

/** Whether this device may be told by its own notes, and how to ask for it. */
export function useTelling(): { can: boolean; ask: () => Promise<void> } {
  const there = "Notification" in globalThis;
  const [permission, setPermission] = useState(there ? Notification.permission : "denied");
  return {
    can: there && permission === "default",
    ask: async () => setPermission(await Notification.requestPermission()),
  };
}

/** What this device has told already, the newest last: nothing is told twice. */
function told(): string[] {
  try {
    return JSON.parse(localStorage.getItem(TOLD) ?? "[]");
  } catch {
    return [];
  }
}

/** Tell an alarm by the device's own notes, once, where that is allowed. */
export async function tell(planId: number, alarm: Alarm): Promise<void> {
  if (!alarm.tell || !("Notification" in globalThis)) return;
  if (Notification.permission !== "granted") return;
  const before = told();
  // Two trips may have the same thing on the same day.
  const tag = `${planId} ${alarm.key}`;
  if (before.includes(tag)) return;
  localStorage.setItem(TOLD, JSON.stringify([...before, tag].slice(-MAX_TOLD)));
  const note = { body: `${alarm.text} ${alarm.remedy}`, tag, icon: "/icon-192.png" };
  const worker = await navigator.serviceWorker?.getRegistration();
  // A phone shows what the worker tells, and nothing else.
  if (worker) await worker.showNotification("Odd Kettle", note);
  else new Notification("Odd Kettle", note);
}
