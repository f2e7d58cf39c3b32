import { useEffect, useState } from "react";
import {
  answer,
  client,
  type InstantReport,
  type Plan,
  refusalIn,
  type Sky,
} from "../../../api/client";
import { Newest } from "../../../api/newest";
import { usePlanPart } from "../../../plan/context";

/**
 * The box at one step of its run; null while it is not asked for. The last answer stays in sight.
 */
export function useInstant(step: number | null): InstantReport | null {
  const draft = usePlanPart((state) => state.draft);
  const sky = usePlanPart((state) => state.sky);
  const [instant, setInstant] = useState<InstantReport | null>(null);
  const [questions] = useState(
    () =>
      new Newest<{ draft: Plan; step: number; sky: Sky }>(async ({ draft: body, ...query }) => {
        try {
          setInstant(await answer(client.POST("/api/instant", { params: { query }, body })));
        } catch (error) {
          // A draft that cannot be run is told of by the store; the last moment stays.
          refusalIn(error);
        }
      }),
  );
  useEffect(() => {
    if (step !== null) questions.ask({ draft, step, sky });
  }, [questions, draft, step, sky]);
  return step === null ? null : instant;
}
