import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type NewEntry, type Schemas } from "../../api/client";
import { usePlanPart } from "../../plan/context";
import { useLive } from "../../plan/useLive";
import { useLogRefresh } from "../../plan/useLog";
import { useLogNews } from "../../plan/useLogNews";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { LevelNow } from "./LevelNow";
import { ReadingPad } from "./ReadingPad";
import { SunToday } from "./SunToday";
import { ThingRow } from "./ThingRow";

type Today = Schemas["TodayReport"];

/** The field page: where it stands, what to do until dawn, and readings with one thumb. */
export function TodayPage() {
  const plan = usePlanPart((state) => state.plan);
  const queries = useQueryClient();
  const refresh = useLogRefresh();
  useLogNews(useLive(plan.id));
  const habits = useHabits();
  const [told, setTold] = useState<{ text: string; bad: boolean } | null>(null);
  const path = { plan_id: plan.id };
  const key = ["today", plan.id];
  const today = useQuery({
    queryKey: [...key, plan.revision],
    placeholderData: keepPreviousData,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/track/today", { params: { path } })),
  });

  async function log(entry: Partial<NewEntry> & Pick<NewEntry, "kind" | "at">) {
    try {
      const body = { note: "", ...entry } as NewEntry;
      const kept = await answer(
        client.POST("/api/plans/{plan_id}/log", { params: { path }, body }),
      );
      await Promise.all([refresh(), queries.invalidateQueries({ queryKey: key })]);
      setTold({ text: `Noted: ${kept.text}.`, bad: false });
    } catch (error) {
      setTold({ text: error instanceof Error ? error.message : String(error), bad: true });
    }
  }

  if (today.error)
    return (
      <p role="alert" className="plate mt-4 p-4">
        {today.error.message}
      </p>
    );
  const day = today.data;
  if (!day) return <p className="p-8 text-ash">Looking at the day…</p>;
  return (
    <>
      <div aria-live="polite" className="px-1 py-2">
        <h1
          className={`text-2xl leading-tight ${day.safe ? "" : "text-danger"}`}
          data-testid="headline"
        >
          {day.safe ? "" : "▲ "}
          {day.headline}
        </h1>
        <p className="text-ash">
          {day.day}, {clockText(day.now.slice(11, 16), habits)}. {day.rest}
        </p>
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_22rem]">
        <div className="flex flex-col gap-4">
          <section className="plate px-4 py-3" aria-labelledby="todo">
            <h2 id="todo" className="text-lg">
              To do until dawn
            </h2>
            <Things day={day} onLog={log} />
          </section>
          {day.yesterday.length > 0 && (
            <section className="card" aria-labelledby="yesterday">
              <h2 id="yesterday" className="text-lg">
                How was yesterday?
              </h2>
              <ol className="divide-y divide-line">
                {day.yesterday.map((thing) => (
                  <ThingRow key={thing.key} thing={thing} onLog={log} />
                ))}
              </ol>
            </section>
          )}
          <SunToday at={day.now} />
          <p className="flex flex-wrap gap-x-5 px-1 print:hidden">
            <Link className="underline" to={`/plan/${plan.id}/improve?view=mend`}>
              The cheapest way to be sure
            </Link>
            <Link className="underline" to={`/plan/${plan.id}/trip`}>
              The whole trip
            </Link>
            <button type="button" className="underline" onClick={() => window.print()}>
              Print a card for the lid
            </button>
          </p>
        </div>
        <aside className="flex flex-col gap-4">
          <LevelNow day={day} />
          <ReadingPad day={day} told={told} onLog={log} />
        </aside>
      </div>
    </>
  );
}

interface ThingsProps {
  day: Today;
  onLog: (entry: Partial<NewEntry> & Pick<NewEntry, "kind" | "at">) => Promise<void>;
}

function Things({ day, onLog }: ThingsProps) {
  if (day.things.length === 0)
    return <p className="text-ash">Nothing is planned for today. Use it as you like.</p>;
  return (
    <ol className="divide-y divide-line" data-testid="things">
      {day.things.map((thing) => (
        <ThingRow key={thing.key} thing={thing} onLog={onLog} />
      ))}
    </ol>
  );
}
