import { Link } from "react-router";
import type { Track } from "../../api/client";
import { usePlanPart } from "../../plan/context";
import { Figure, STANDING } from "../../plan/sums";
import { dayName } from "../../quantities/clock";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { Choice } from "../../ui/fields/Choice";

interface Props {
  track: Track;
  planned: boolean;
  onPlanned: (planned: boolean) => void;
}

/** On a trip that is under way: where it stands and how the rest looks, before what was planned. */
export function NowLine({ track, planned, onPlanned }: Props) {
  const habits = useHabits();
  const id = usePlanPart((state) => state.plan.id);
  const when = `${dayName(track.now.slice(0, 10))} ${clockText(track.now.slice(11, 16), habits)}`;
  // What the board shows is what the page is about.
  const Title = planned ? "h2" : "h1";
  return (
    <section
      aria-label="Under way"
      aria-live="polite"
      className="plate mb-3 flex flex-wrap items-center gap-x-5 gap-y-2 border-l-4 border-l-rim px-4 py-2"
    >
      <div className="min-w-0 flex-1 basis-80">
        <Title className="text-xl leading-tight" data-testid={planned ? "from-now" : "headline"}>
          <span className="text-ash">{when}: </span>
          {track.rest.headline}
        </Title>
        <p>
          {track.headline} {track.detail} <Figure of={STANDING}>how it is known</Figure>
        </p>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <Choice
          label="What the board shows"
          value={planned ? "plan" : "now"}
          options={[
            { value: "now", text: "from now" },
            { value: "plan", text: "the plan" },
          ]}
          onChange={(next) => onPlanned(next === "plan")}
        />
        <Link className="text-sm underline" to={`/plan/${id}/improve?view=sure&from=now`}>
          What is enough from here?
        </Link>
        <Link className="text-sm underline" to={`/plan/${id}/log`}>
          The log
        </Link>
      </div>
    </section>
  );
}
