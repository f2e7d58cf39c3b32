import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { answer, client } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import type { PartKey, Sentence } from "../../sentence/sentence";

/** What is typed or stepped quickly is one change, and one step of undo. */
const PAUSE_MS = 350;

/** How a change of each part is called among the steps of undo. */
const DID: Record<PartKey, string> = {
  bank: "changed the box",
  chargers: "changed what charges it",
  length: "changed how long the trip is",
  place: "moved the trip",
  when: "changed when the trip begins",
  things: "changed what runs",
  shape: "changed what the box is for",
};

/** The sentence of the open plan for its pickers, and a way to change it. */
export function usePlanSentence(wanted: boolean) {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const draws = usePlanPart((state) => state.run.use.draws);
  const [mine, setMine] = useState<Sentence | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const timer = useRef<number | undefined>(undefined);
  const changes = useRef<{ before: Sentence; after: Sentence; did: string } | null>(null);
  const told = useQuery({
    queryKey: ["sentence of", plan.id, plan.revision],
    enabled: wanted,
    queryFn: () => answer(client.POST("/api/sentence/of", { body: plan.document })),
  });
  const choices = useQuery({
    queryKey: ["choices"],
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/sentence/choices")),
  });
  // What the server tells of the plan holds, once nothing of ours is on its way.
  useEffect(() => {
    if (told.data && changes.current === null) setMine(told.data);
  }, [told.data]);
  const uses = useMemo(() => new Map(draws.map((draw) => [draw.key, draw.a_day])), [draws]);

  async function send() {
    const now = changes.current;
    changes.current = null;
    if (!now) return;
    try {
      const body = { plan: store.snapshot().draft, before: now.before, after: now.after };
      const next = await answer(client.POST("/api/sentence/edit", { body }));
      store.commit(next, now.did);
      setProblem(null);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
      setMine(now.before);
    }
  }
  const leave = useRef(send);
  leave.current = send;
  // Who goes on to another page has changed it all the same.
  useEffect(
    () => () => {
      window.clearTimeout(timer.current);
      void leave.current();
    },
    [],
  );
  function change(after: Sentence, part: PartKey) {
    const before = changes.current?.before ?? mine;
    if (!before) return;
    changes.current = { before, after, did: DID[part] };
    setMine(after);
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => void send(), PAUSE_MS);
  }
  return { sentence: mine, choices: choices.data, uses, problem, change };
}
