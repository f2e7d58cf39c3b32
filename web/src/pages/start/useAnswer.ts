import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import type { Sentence } from "../../sentence/sentence";

/** A longer trip is answered by one usual run first. */
const LONG_DAYS = 31;

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
  const long = (plan?.trip.days.length ?? 0) > LONG_DAYS;
  // A year of scenarios takes a second; one usual year a tenth of that.
  const first = usePlanQuery("first look", long ? plan : null, (body) =>
    answer(
      client.POST("/api/preview", { params: { query: { advice: false, odds: "none" } }, body }),
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
  const behind = told.isFetching || told.isPlaceholderData;
  const full = run.isFetching || run.isPlaceholderData ? undefined : run.data;
  const coarse = first.isFetching || first.isPlaceholderData ? undefined : first.data;
  return {
    told: told.data,
    problem: told.error ?? run.error,
    plan,
    run: full ?? (long ? coarse : undefined) ?? run.data,
    /** What stands is one usual run; the odds are still being worked out. */
    firstLook: !behind && full === undefined && long && coarse !== undefined,
    // One that was found for another sentence is not offered for this one.
    change: asks || change.isPlaceholderData ? undefined : change.data,
    changing: change.isFetching,
    boxes: asks ? boxes.data : undefined,
    behind: behind || (full === undefined && !(long && coarse !== undefined)),
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
