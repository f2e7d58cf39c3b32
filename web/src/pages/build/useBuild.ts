import { useEffect, useRef, useState } from "react";
import {
  answer,
  type BuildReport,
  client,
  type Plan,
  type Problem,
  Refusal,
} from "../../api/client";

interface Wish {
  body: Plan;
  /** Only places changed: the rest of the report stands. */
  moved: boolean;
}

/**
 * The building of a plan, or of one that is `tried` while something is dragged. One question is
 * under way at a time: the newest draft waits, those between are skipped, and the last answer
 * stays in sight.
 */
export function useBuild(
  draft: Plan,
  tried: Plan | null,
): { report: BuildReport | null; problem: Problem | null } {
  const [report, setReport] = useState<BuildReport | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const waiting = useRef<Wish | null>(null);
  const running = useRef(false);
  useEffect(() => {
    waiting.current = { body: tried ?? draft, moved: tried !== null };
    if (running.current) return;
    running.current = true;
    void (async () => {
      while (waiting.current) {
        const { body, moved } = waiting.current;
        waiting.current = null;
        try {
          if (moved) {
            const places = await answer(client.POST("/api/build/moved", { body }));
            setReport((last) => last && { ...last, ...places });
          } else {
            setReport(await answer(client.POST("/api/build", { body })));
          }
          setProblem(null);
        } catch (error) {
          // The last building that could be made stays in sight.
          if (!(error instanceof Refusal)) throw error;
          setProblem(error.problem);
        }
      }
      running.current = false;
    })();
  }, [draft, tried]);
  return { report, problem };
}
