import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo } from "react";
import { answer, client, type LogEntry, type Track } from "../api/client";
import { usePlanPart, usePlanStore } from "./context";

/** The log of the plan that is open, by time. */
export function useLog(): readonly LogEntry[] {
  const plan = usePlanPart((state) => state.plan);
  const log = useQuery({
    queryKey: ["log", plan.id, plan.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/log", { params: { path: { plan_id: plan.id } } })),
    placeholderData: (before) => before,
  });
  return log.data ?? [];
}

/**
 * Where the battery stands and how the rest looks; null until it is known. While the plan is
 * changed on screen the rest is that of the draft.
 */
export function useTrack(): Track | null {
  return useTrackAsked().track;
}

/** The same, and whether it was answered: a track that cannot be had is null for good. */
export function useTrackAsked(): { track: Track | null; answered: boolean } {
  const store = usePlanStore();
  const rest = usePlanPart((state) => state.rest);
  const plan = usePlanPart((state) => state.plan);
  const track = useQuery({
    queryKey: ["track", plan.id, plan.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/track", { params: { path: { plan_id: plan.id } } })),
    placeholderData: (before) => before,
    // The header and the page ask for it a moment apart.
    staleTime: 2000,
  });
  const found = track.data ?? null;
  useEffect(() => {
    if (found) store.setUnderway(found.begun);
  }, [store, found]);
  const merged = useMemo(() => (found && rest ? { ...found, rest } : found), [found, rest]);
  return { track: merged, answered: !track.isPending };
}

/** Ask anew for all that hangs on the log. */
export function useLogRefresh(): () => Promise<unknown> {
  const id = usePlanPart((state) => state.plan.id);
  const queries = useQueryClient();
  const store = usePlanStore();
  return useCallback(
    () =>
      Promise.all([
        // An entry is a step of the history as well.
        store.refreshSteps(),
        ...["log", "track", "today", "alarms", "hints", "score", "actual", "samples"].map((key) =>
          queries.invalidateQueries({ queryKey: [key, id] }),
        ),
      ]),
    [queries, id, store],
  );
}
