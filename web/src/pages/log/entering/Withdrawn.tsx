import { useQuery } from "@tanstack/react-query";
import { answer, client, type LogEntry } from "../../../api/client";
import { useHabits } from "../../../quantities/useHabits";
import { Button } from "../../../ui/Button";
import { whenOf } from "./EntryList";

interface Props {
  planId: number;
  onPutBack: (entry: LogEntry) => void;
}

/** Entries that were taken out, each to be put back. */
export function Withdrawn({ planId, onPutBack }: Props) {
  const habits = useHabits();
  const gone = useQuery({
    queryKey: ["log", planId, "withdrawn"],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/log/withdrawn", {
          params: { path: { plan_id: planId } },
        }),
      ),
  });
  const entries = gone.data ?? [];
  if (entries.length === 0) return null;
  return (
    <details className="mt-2 text-sm">
      <summary className="cursor-pointer py-1 text-ash">
        {entries.length === 1 ? "1 entry taken out" : `${entries.length} entries taken out`}
      </summary>
      <div>
        {entries.toReversed().map((entry) => (
          <div key={entry.id} className="flex items-center justify-between gap-3 py-1">
            <span className="line-through">{`${whenOf(entry, habits)}: ${entry.text}`}</span>
            <Button
              aria-label={`Put back the entry of ${whenOf(entry, habits)}`}
              onClick={() => onPutBack(entry)}
            >
              Put it back
            </Button>
          </div>
        ))}
      </div>
    </details>
  );
}
