import { useEffect, useRef, useState } from "react";
import { answer, client, type InstantReport, type Plan, Refusal, type Sky } from "../../api/client";
import { usePlanPart } from "../../plan/context";

/**
 * The box at one step of its run; null while it is not asked for. One question is under way at a
 * time: the newest waits, those between are skipped, and the last answer stays in sight.
 */
export function useInstant(step: number | null): InstantReport | null {
  const draft = usePlanPart((state) => state.draft);
  const sky = usePlanPart((state) => state.sky);
  const [instant, setInstant] = useState<InstantReport | null>(null);
  const waiting = useRef<{ draft: Plan; step: number; sky: Sky } | null>(null);
  const running = useRef(false);
  useEffect(() => {
    if (step === null) return;
    waiting.current = { draft, step, sky };
    if (running.current) return;
    running.current = true;
    void (async () => {
      while (waiting.current) {
        const { draft: body, ...query } = waiting.current;
        waiting.current = null;
        try {
          setInstant(await answer(client.POST("/api/instant", { params: { query }, body })));
        } catch (error) {
          // A draft that cannot be run is told of by the store; the last moment stays.
          if (!(error instanceof Refusal)) throw error;
        }
      }
      running.current = false;
    })();
  }, [draft, step, sky]);
  return step === null ? null : instant;
}
