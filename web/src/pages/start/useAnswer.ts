import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import type { Sentence } from "./sentence";

/** The plan that a sentence tells, what a run of it says, and the change that would help most. */
export function useAnswer(sentence: Sentence | null) {
  const told = useQuery({
    queryKey: ["told", sentence],
    enabled: sentence !== null,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => answer(client.POST("/api/sentence", { body: sentence as Sentence })),
  });
  const plan = told.data?.plan ?? null;
  const asks = sentence?.shape === "which_box";
  const run = usePlanQuery("run", plan, (body) =>
    answer(
      client.POST("/api/preview", { params: { query: { advice: true, odds: "full" } }, body }),
    ),
  );
  const change = usePlanQuery("change", asks ? null : plan, (body) =>
    answer(client.POST("/api/sentence/change", { body })),
  );
  const boxes = useQuery({
    queryKey: ["boxes for", sentence],
    enabled: asks,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => answer(client.POST("/api/sentence/boxes", { body: sentence as Sentence })),
  });
  return {
    told: told.data,
    problem: told.error ?? run.error,
    plan,
    run: run.data,
    // One that was found for another sentence is not offered for this one.
    change: asks || change.isPlaceholderData ? undefined : change.data,
    changing: change.isFetching,
    boxes: asks ? boxes.data : undefined,
    behind: told.isFetching || run.isFetching || told.isPlaceholderData || run.isPlaceholderData,
  };
}

function usePlanQuery<T>(name: string, plan: Plan | null, ask: (plan: Plan) => Promise<T>) {
  return useQuery({
    queryKey: [name, plan],
    enabled: plan !== null,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => ask(plan as Plan),
  });
}
