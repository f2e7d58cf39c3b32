import { useQuery } from "@tanstack/react-query";
import { answer, client, type Track } from "../../api/client";
import { usePlanState, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { freshId } from "./board/blocks/blocks";
import { ForecastButton } from "./place/ForecastButton";
import { Roads } from "./place/Roads";
import { TripSettings } from "./place/TripSettings";
import { SkyChoice } from "./SkyChoice";

/** What is shown, the drive that would mend it, and where the trip goes: one row. */
export function TripChoices({ track }: { track: Track | null }) {
  const store = usePlanStore();
  const { asPlanned } = usePlanState();
  return (
    <div className="choices">
      {track && (
        <Choice
          label="What is shown"
          value={asPlanned ? "plan" : "now"}
          options={[
            { value: "now", text: "from now" },
            { value: "plan", text: "the plan" },
          ]}
          onChange={(next) => store.showPlan(next === "plan")}
        />
      )}
      {track && !asPlanned ? <MendOnward /> : <MendPlan />}
      <span className="hidden sm:ml-auto sm:block" />
      <SkyChoice />
      <ForecastButton />
      <TripSettings />
      <Roads />
    </div>
  );
}

/** The shortest drive that mends the plan, and how sure it is then. */
function MendPlan() {
  const store = usePlanStore();
  const { mend } = usePlanState().run.verdict;
  if (!mend) return null;

  function apply() {
    if (!mend) return;
    store.edit((old) => {
      const id = freshId(
        "m",
        old.trip.blocks.map((block) => block.id),
      );
      const block = {
        id,
        kind: "drive" as const,
        day: mend.day,
        start: mend.start,
        end_day: null,
        end: mend.end,
        idling: false,
      };
      return { ...old, trip: { ...old.trip, blocks: [...old.trip.blocks, block] } };
    }, `added a drive of ${mend.minutes} min`);
  }

  return (
    <>
      <Button className="border-vehicle" onClick={apply} title="Put this drive in">
        <span aria-hidden="true" className="size-3 rounded-sm bg-vehicle" />
        {mend.text}
      </Button>
      {mend.lasts_percent != null && (
        <span className="text-ash">then in {Math.round(mend.lasts_percent)} of 100</span>
      )}
    </>
  );
}

/** The shortest drive that makes the rest of the trip likely to last, from now. */
function MendOnward() {
  const store = usePlanStore();
  const { plan } = usePlanState();
  const mend = useQuery({
    queryKey: ["track", plan.id, plan.revision, "mend"],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/track/mend", { params: { path: { plan_id: plan.id } } }),
      ),
    placeholderData: (before) => before,
  });
  const sought = mend.data;
  if (!sought) return null;
  const remedy = sought.value == null ? null : sought.try_it;
  return (
    <>
      <span data-testid="mend-onward" className="min-w-0 sm:flex-1">
        {sought.text}
      </span>
      {remedy && (
        <Button
          className="border-vehicle"
          onClick={() => store.edit((old) => withRemedy(old, remedy), "added a drive")}
        >
          <span aria-hidden="true" className="size-3 rounded-sm bg-vehicle" />
          Apply
        </Button>
      )}
    </>
  );
}
