import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type LogEntry, type NewEntry, Refusal } from "../../api/client";
import { useBenchState } from "../../app/context";
import { dayName } from "../../quantities/clock";
import { clockText, type Habits } from "../../quantities/habits";
import { percentText } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { LogChart } from "./LogChart";
import { ReadingForm } from "./ReadingForm";

/** Readings from the field beside the plan. They are shown as what they are worth, no more. */
export function LogPage() {
  const habits = useHabits();
  const { plan, run, draft } = useBenchState();
  const queries = useQueryClient();
  const [gone, setGone] = useState<LogEntry | null>(null);
  const path = { plan_id: plan.id };
  const log = useQuery({
    queryKey: ["log", plan.id, plan.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/log", { params: { path } })),
    placeholderData: (before) => before,
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ["log", plan.id] });
  const add = useMutation({
    mutationFn: (body: NewEntry) =>
      answer(client.POST("/api/plans/{plan_id}/log", { params: { path }, body })),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: (entry: LogEntry) =>
      answer(
        client.DELETE("/api/plans/{plan_id}/log/{entry_id}", {
          params: { path: { ...path, entry_id: entry.id } },
        }),
      ),
    onSuccess: (_, entry) => {
      setGone(entry);
      return refresh();
    },
  });
  const restore = useMutation({
    mutationFn: (entry: LogEntry) =>
      answer(
        client.POST("/api/plans/{plan_id}/log/{entry_id}/restore", {
          params: { path: { ...path, entry_id: entry.id } },
        }),
      ),
    onSuccess: () => {
      setGone(null);
      return refresh();
    },
  });
  const entries = log.data ?? [];
  const refusal = add.error instanceof Refusal ? add.error.problem : null;
  const last = entries.at(-1);

  return (
    <>
      <div className="px-1 py-2" aria-live="polite">
        <h1 className="inline text-2xl" data-testid="headline">
          {last ? lastSays(last) : "Nothing is logged yet."}
        </h1>{" "}
        <span className="text-ash">
          Readings stand beside the plan; they do not move it. Tracking from them is still to come.
        </span>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[20rem_minmax(0,1fr)]">
        <ReadingForm
          key={entries.length}
          start={draft.trip.start}
          days={run.days.map((day) => day.date)}
          busy={add.isPending}
          refusal={refusal}
          onAdd={(entry) => add.mutate(entry)}
        />
        <section className="plate min-w-0 px-3 py-3" aria-label="Readings">
          <LogChart run={run} floor={draft.trip.floor_percent} entries={entries} />
          {gone && (
            <p className="mt-2 flex items-center gap-3" role="status">
              Deleted the reading of {when(gone, habits)}.
              <button type="button" className="key" onClick={() => restore.mutate(gone)}>
                Put it back
              </button>
            </p>
          )}
          <ul className="mt-2">
            {entries.map((entry) => (
              <Reading key={entry.id} entry={entry} onRemove={() => remove.mutate(entry)} />
            ))}
          </ul>
        </section>
      </div>
    </>
  );
}

function when(entry: LogEntry, habits: Habits): string {
  return `${dayName(entry.at_local.slice(0, 10))}, ${clockText(entry.at_local.slice(11, 16), habits)}`;
}

function says(entry: LogEntry): string {
  return entry.kind === "monitor_percent"
    ? `monitor says ${entry.value} %`
    : `rested at ${entry.value} V`;
}

function lastSays(entry: LogEntry): string {
  const range = `${Math.round(entry.low_percent)} to ${Math.round(entry.high_percent)} %`;
  const name = dayName(entry.at_local.slice(0, 10));
  if (entry.planned_percent == null) return `${name}: ${range}.`;
  return `${name}: ${range} read, ${percentText(entry.planned_percent)} planned.`;
}

function Reading({ entry, onRemove }: { entry: LogEntry; onRemove: () => void }) {
  const habits = useHabits();
  const span = entry.high_percent - entry.low_percent > 1;
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-3 border-t border-line py-2 sm:grid-cols-[9rem_1fr_auto]">
      <strong className="font-head">{when(entry, habits)}</strong>
      <div className="order-last col-span-2 sm:order-none sm:col-span-1">
        {says(entry)}
        {span && `: level ${Math.round(entry.low_percent)} to ${Math.round(entry.high_percent)} %`}
        {entry.planned_percent != null && `, planned ${percentText(entry.planned_percent)}`}
        {entry.note && <span className="text-ash"> · {entry.note}</span>}
        <span className="block text-sm text-ash">{entry.worth}</span>
        <span className="block text-xs text-ash">
          written {entry.written_at.slice(0, 16).replace("T", " ")} UTC {entry.written_by}
        </span>
      </div>
      <button
        type="button"
        className="key self-start"
        aria-label={`Delete the reading of ${when(entry, habits)}`}
        onClick={onRemove}
      >
        ×
      </button>
    </li>
  );
}
