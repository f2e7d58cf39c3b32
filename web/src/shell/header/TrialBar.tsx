import { Link } from "react-router";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Button } from "../../ui/Button";

/** What is tried and not kept yet; it is on every page until one of the two keys is pressed. */
export function TrialBar() {
  const store = usePlanStore();
  const trial = usePlanPart((state) => state.trial);
  const plan = usePlanPart((state) => state.plan);
  const says = usePlanPart((state) => state.run.headline);
  if (trial === null) return null;
  return (
    <div
      role="status"
      className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-2 rounded-xl border-2 border-dashed border-rim bg-sun-tint px-3 py-2"
      data-testid="trial"
    >
      <p className="min-w-0 flex-1 basis-60">
        <strong>Only a trial:</strong> {trial}{" "}
        <span className="block text-ash" data-testid="trial-says">
          {says}
        </span>
      </p>
      <Link className="key" to={`/plan/${plan.id}/trip`}>
        See the trip
      </Link>
      <Button look="main" onClick={store.keepTrial}>
        Keep it
      </Button>
      <Button onClick={store.dropTrial}>Put it back</Button>
    </div>
  );
}
