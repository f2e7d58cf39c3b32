import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { useTrackAsked } from "../../plan/useLog";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";

type Scheduled = Schemas["Scheduled"];
type Placed = Schemas["Placed"];

/** When to run what may run at any time: found, told with its reasons, and kept as one edit. */
export function BestHours() {
  const store = usePlanStore();
  const { id, document } = usePlanPart((state) => state.plan);
  const { track, answered } = useTrackAsked();
  const onward = track?.begun === true && track.rest.days.length > 0;
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const [found, setFound] = useState<{ of: typeof document; schedule: Scheduled } | null>(null);
  const loads = document.use.appliances.filter((one) => one.on && one.flexible);
  const schedule = found && found.of === document ? found.schedule : null;

  async function find() {
    setBusy(true);
    setTrouble("");
    try {
      const path = { plan_id: id };
      const made = onward
        ? await answer(client.POST("/api/plans/{plan_id}/track/schedule", { params: { path } }))
        : await answer(client.POST("/api/improve/schedule", { body: document }));
      setFound({ of: document, schedule: made });
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  }

  if (loads.length === 0) return null;
  return (
    <section className="plate mt-3 px-4 py-3" aria-labelledby="best-hours">
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
        <div>
          <h2 id="best-hours" className="text-lg">
            Best hours
          </h2>
          <p className="text-ash">
            {loads.map((one) => one.name).join(", ")} may run at any time.
            {onward ? " When is it best from now on?" : " When is it best?"}
          </p>
        </div>
        <Button
          look="main"
          // Until it is known whether the trip is under way, it is not known what to ask.
          disabled={busy || !answered}
          onClick={() => void find()}
        >
          {busy ? "Looking…" : "Find the best hours"}
        </Button>
      </div>
      {trouble && (
        <p role="alert" className="mt-2 text-danger">
          {trouble}
        </p>
      )}
      <div aria-live="polite">
        {schedule && (
          <>
            <p className="mt-2 font-semibold" data-testid="schedule-says">
              {schedule.text}
            </p>
            {schedule.moved > 0 && (
              <>
                <DayRuns runs={schedule.runs} />
                <div className="mt-3 flex flex-wrap gap-3">
                  <Button
                    onClick={() =>
                      store.try(
                        withRemedy(document, { text: "", edits: schedule.edits }),
                        "best hours",
                      )
                    }
                  >
                    Try
                  </Button>
                  <Button
                    onClick={() =>
                      store.commit(
                        withRemedy(document, { text: "", edits: schedule.edits }),
                        "took the best hours",
                      )
                    }
                  >
                    Use these hours
                  </Button>
                </div>
              </>
            )}
          </>
        )}
      </div>
    </section>
  );
}

function DayRuns({ runs }: { runs: readonly Placed[] }) {
  const habits = useHabits();
  const days = [...new Set(runs.map((run) => run.day))];
  return (
    <dl className="mt-2 grid gap-x-4 gap-y-1 sm:grid-cols-[5rem_1fr]" data-testid="schedule">
      {days.map((day) => {
        const own = runs.filter((run) => run.day === day);
        return (
          <div key={day} className="contents">
            <dt className="font-head font-semibold">{own[0]?.day_words}</dt>
            <dd>
              <ul>
                {own.map((run) => (
                  <li key={run.appliance} className={run.was ? "" : "text-ash"}>
                    {run.name} {clockText(run.start, habits)} to {clockText(run.end, habits)}
                    {run.was && (
                      <span className="text-ash">
                        {" "}
                        instead of {/^\d\d:/.test(run.was) ? clockText(run.was, habits) : run.was}
                      </span>
                    )}
                    <span className="text-sm text-ash">, {run.why}</span>
                  </li>
                ))}
              </ul>
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
