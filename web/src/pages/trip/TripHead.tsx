import { Suspense } from "react";
import { Link } from "react-router";
import type { Track } from "../../api/client";
import { usePlanState } from "../../plan/context";
import { dayName } from "../../quantities/clock";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { part } from "../../shell/part";
import { PageHead } from "../../ui/PageHead";

const PlanSentence = part(() => import("../../shell/header/PlanSentence"));
/** Below this the page leads on to what would help. */
const SURE_PERCENT = 95;

/** The answer about the trip, from now where it is under way, over the plan in one line. */
export function TripHead({ track }: { track: Track | null }) {
  const { run, plan, asPlanned } = usePlanState();
  const habits = useHabits();
  const onward = track && !asPlanned ? track : null;
  const odds = onward?.rest ?? run.odds;
  return (
    <PageHead
      answer={
        onward ? (
          <>
            <span className="font-semibold text-ash max-sm:hidden">
              {dayName(onward.now.slice(0, 10))} {clockText(onward.now.slice(11, 16), habits)}:
            </span>{" "}
            {onward.rest.headline}
          </>
        ) : (
          run.headline
        )
      }
      facts={
        <Suspense fallback={<span className="block h-5" />}>
          <PlanSentence />
        </Suspense>
      }
      act={
        odds && odds.lasts_percent < SURE_PERCENT ? (
          <Link
            className="key key-on px-4"
            to={`/plan/${plan.id}/improve${onward ? "?from=now" : ""}`}
          >
            Improve your chances
          </Link>
        ) : undefined
      }
    />
  );
}
