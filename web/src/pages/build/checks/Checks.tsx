import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, type Checklist, client, Refusal, type Ticks } from "../../../api/client";
import { usePlanPart } from "../../../plan/context";
import { useLogRefresh } from "../../../plan/useLog";
import { dayName } from "../../../quantities/clock";
import { clockText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";
import { Cautions } from "../../../shell/header/Caution";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import type { ViewProps } from "../BuildPage";

type Tick = Ticks["now"][number];
/** Stands for a whole list that is begun anew. */
const AFRESH = "afresh";
const NONE: Ticks = { now: [], before: [] };

/** Checklists of this box with what the meter should show; ticks are kept, with their date. */
export function Checks({ build }: ViewProps) {
  const planId = usePlanPart((state) => state.plan.id);
  const queries = useQueryClient();
  const refreshLog = useLogRefresh();
  const [wanted, setWanted] = useState(build.checklists[0]?.key ?? "");
  const list = build.checklists.find((one) => one.key === wanted) ?? build.checklists[0];
  const path = { plan_id: planId };
  const key = ["ticks", planId];
  const ticks = useQuery({
    queryKey: key,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/ticks", { params: { path } })),
  });
  const told = {
    // One after the other: each answer holds every tick, and an older one must not come last.
    scope: { id: `ticks-${planId}` },
    onSuccess: (next: Ticks) => {
      queries.setQueryData(key, next);
      return refreshLog();
    },
  };
  const tick = useMutation({
    mutationFn: (body: { checklist: string; check: string; text: string; measured: string }) =>
      answer(client.POST("/api/plans/{plan_id}/ticks", { params: { path }, body })),
    ...told,
  });
  const untick = useMutation({
    mutationFn: (entry: number) =>
      answer(
        client.DELETE("/api/plans/{plan_id}/ticks/{entry_id}", {
          params: { path: { ...path, entry_id: entry } },
        }),
      ),
    ...told,
  });
  const { now, before } = ticks.data ?? NONE;
  if (!list) return null;
  const mine = now.filter((one) => one.checklist === list.key);
  const problem = tick.error ?? untick.error;
  return (
    <section className="plate px-4 py-3" aria-label="Checklists">
      <Choice
        label="Checklist"
        value={list.key}
        options={build.checklists.map((one) => ({ value: one.key, text: one.title }))}
        onChange={setWanted}
      />
      <div className="mt-2 flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="text-lg">
          {list.title}{" "}
          <span className="font-body text-base font-normal text-ash">
            {list.when}; {mine.length} of {list.checks.length} done
          </span>
        </h2>
        <Button
          disabled={mine.length === 0}
          onClick={() =>
            tick.mutate({
              checklist: list.key,
              check: AFRESH,
              text: `${list.title}: begun anew`,
              measured: "",
            })
          }
        >
          Start this list again
        </Button>
      </div>
      {problem instanceof Refusal && (
        <p role="alert" className="text-danger">
          {problem.problem.status === 0
            ? "Odd Kettle does not answer, and the tick was not kept. Is it still running?"
            : problem.message}
        </p>
      )}
      <ul className="mt-1">
        {list.checks.map((check) => (
          <Check
            key={check.key}
            list={list}
            check={check}
            done={mine.find((one) => one.check === check.key)}
            last={before.find((one) => one.checklist === list.key && one.check === check.key)}
            known={ticks.data !== undefined}
            onTick={(measured) =>
              tick.mutateAsync({
                measured,
                checklist: list.key,
                check: check.key,
                text: `${list.title}: ${check.text}`.slice(0, 200),
              })
            }
            onUntick={(entry) => untick.mutateAsync(entry)}
          />
        ))}
      </ul>
      <Cautions about={list.key === "first" ? ["battery", "sun", "mains"] : ["battery"]} />
      <p className="mt-2 text-sm text-ash">
        Readings to expect come from this plan’s model. Ticks stand in the log with their time and
        what was measured: printed, the list is the record of commissioning.
      </p>
    </section>
  );
}

interface CheckProps {
  list: Checklist;
  check: Checklist["checks"][number];
  done: Tick | undefined;
  last: Tick | undefined;
  /** Whether it is known what is ticked. */
  known: boolean;
  onTick: (measured: string) => Promise<unknown>;
  onUntick: (entry: number) => Promise<unknown>;
}

function Check({ list, check, done, last, known, onTick, onUntick }: CheckProps) {
  const habits = useHabits();
  // A tick shows at once, its time comes with the answer; what could not be kept is taken back.
  const [meant, setMeant] = useState<boolean | null>(null);
  const [measured, setMeasured] = useState("");
  function turn() {
    if (meant !== null) return;
    setMeant(!done);
    const kept = done ? onUntick(done.entry) : onTick(measured);
    // The list says what went wrong.
    kept.catch(() => undefined).finally(() => setMeant(null));
  }
  const id = `${list.key}-${check.key}`;
  const when = (tick: Tick) =>
    `${dayName(tick.at_local.slice(0, 10))} ${tick.at_local.slice(0, 10)}, ${clockText(tick.at_local.slice(11, 16), habits)}`;
  return (
    <li className="grid grid-cols-[1.75rem_1fr] gap-x-2 border-t border-line py-2">
      <input
        id={id}
        type="checkbox"
        className="mt-0.5 size-6 accent-[var(--color-rim)]"
        disabled={!known}
        checked={meant ?? done !== undefined}
        onChange={turn}
      />
      <div className="grid gap-x-4 sm:grid-cols-[1fr_20rem]">
        <div>
          <label htmlFor={id} className={done ? "text-ash line-through" : "font-semibold"}>
            {check.text}
          </label>
          {check.why && <span className="block text-sm text-ash">{check.why}</span>}
          {done && (
            <span className="block text-sm text-ash">
              ticked {when(done)}
              {done.measured && `, measured ${done.measured}`}
            </span>
          )}
          {!done && last && <span className="block text-sm text-ash">last {when(last)}</span>}
        </div>
        {check.expect && (
          <div className="leading-snug">
            <p>
              <span className="text-sm text-ash">{list.keyed ? "set to " : "expect "}</span>
              {check.expect}
            </p>
            {!done && (
              <label className="mt-1 flex items-center gap-2 text-sm text-ash">
                {list.keyed ? "read back" : "measured"}
                <input
                  className="field w-28"
                  maxLength={40}
                  value={measured}
                  aria-label={`Measured: ${check.text}`}
                  onChange={(event) => setMeasured(event.target.value)}
                />
              </label>
            )}
          </div>
        )}
      </div>
    </li>
  );
}
