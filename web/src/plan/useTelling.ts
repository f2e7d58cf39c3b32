import { useCallback, useState } from "react";
import { type NewEntry, refusalIn } from "../api/client";
import { markOf, outbox } from "../away/outbox";
import { usePlanPart } from "./context";
import type { LogIt } from "./Ticks";
import { useLogRefresh } from "./useLog";
import { withdraw } from "./withdraw";

/** Say in the log how something went, or take that back; `trouble` says what was refused. */
export function useTelling(): {
  log: LogIt;
  clear: (entries: readonly number[]) => void;
  trouble: string;
} {
  const plan = usePlanPart((state) => state.plan);
  const refresh = useLogRefresh();
  const [trouble, setTrouble] = useState("");
  const log: LogIt = useCallback(
    async (entry, says) => {
      const outcome = await outbox.write(markOf(plan), { note: "", ...entry } as NewEntry, says);
      setTrouble(
        outcome.how === "refused"
          ? outcome.why
          : outcome.how === "waiting"
            ? `Kept on this device: ${says}. It is sent later.`
            : "",
      );
      void refresh();
      return outcome.how !== "refused";
    },
    [plan, refresh],
  );
  const clear = useCallback(
    async (entries: readonly number[]) => {
      try {
        await withdraw(plan.id, entries);
        setTrouble("");
      } catch (error) {
        setTrouble(refusalIn(error).problem.detail);
      }
      void refresh();
    },
    [plan.id, refresh],
  );
  return { log, clear: (entries) => void clear(entries), trouble };
}
