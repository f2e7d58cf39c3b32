import { useEffect, useState } from "react";
import {
  answer,
  type BuildReport,
  client,
  type Plan,
  type Problem,
  refusalIn,
} from "../../api/client";
import { Newest } from "../../api/newest";

interface Wish {
  body: Plan;
  /** Only places changed: the rest of the report stands. */
  moved: boolean;
}

/**
 * The building of a plan, or of one that is `tried` while something is dragged; the last answer
 * stays in sight.
 */
export function useBuild(
  draft: Plan,
  tried: Plan | null,
): { report: BuildReport | null; problem: Problem | null } {
  const [report, setReport] = useState<BuildReport | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [questions] = useState(
    () =>
      new Newest<Wish>(async ({ body, moved }) => {
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
          setProblem(refusalIn(error).problem);
        }
      }),
  );
  useEffect(
    () => questions.ask({ body: tried ?? draft, moved: tried !== null }),
    [questions, draft, tried],
  );
  return { report, problem };
}
