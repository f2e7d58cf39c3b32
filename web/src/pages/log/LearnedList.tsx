import type { Learned } from "../../api/client";
import { usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Button } from "../../ui/Button";

interface Props {
  learned: readonly Learned[];
}

const INK: Record<Learned["kind"], string> = {
  appliance: "bg-use",
  use: "bg-use",
  sun: "bg-sun",
  battery: "bg-level",
  monitor: "bg-rim",
  counters: "bg-rim",
};

/** What the readings say about each typed number, as a range on one scale; a click takes it over. */
export function LearnedList({ learned }: Props) {
  const told = learned.filter((one) => one.told);
  const rest = learned.filter((one) => !one.told);
  if (learned.length === 0) {
    return (
      <p className="px-1 text-ash">
        Log a reading or two: the monitor’s percent, its counters, or a rested voltage. Here it says
        what your numbers should have been.
      </p>
    );
  }
  return (
    <>
      {told.length === 0 && (
        <p className="px-1 pb-2">
          The readings do not move any of your numbers yet; they are as you typed them.
        </p>
      )}
      <ul className="grid gap-3">
        {told.map((one) => (
          <LearnedRow key={one.key} one={one} />
        ))}
      </ul>
      {rest.length > 0 && (
        <details className="mt-4">
          <summary className="cursor-pointer text-ash">
            {rest.length} numbers that the readings do not tell apart
          </summary>
          <ul className="mt-2 grid gap-3">
            {rest.map((one) => (
              <LearnedRow key={one.key} one={one} />
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function LearnedRow({ one }: { one: Learned }) {
  const store = usePlanStore();
  const remedy = one.take_over;
  return (
    <li className="plate grid gap-x-5 gap-y-2 px-4 py-3 md:grid-cols-[1fr_18rem]">
      <div>
        <h3 className="text-lg leading-tight">{one.text}</h3>
        <p className="text-sm text-ash">You wrote: {one.typed}.</p>
        {remedy && (
          <Button
            className="mt-2"
            onClick={() =>
              store.edit((old) => withRemedy(old, remedy), `took over ${one.name} as learned`)
            }
          >
            {remedy.text}
          </Button>
        )}
      </div>
      <RangeBar one={one} />
    </li>
  );
}

/** The doubt before (hatched) and after (solid) on a scale about what was typed. */
function RangeBar({ one }: { one: Learned }) {
  const points = one.kind === "monitor";
  const middle = points ? 0 : 1;
  const reach =
    1.15 *
    Math.max(
      ...[one.before, one.after].flatMap(({ low, high }) => [
        Math.abs(low - middle),
        Math.abs(high - middle),
      ]),
      points ? 1 : 0.05,
    );
  const at = (value: number) => 50 + (50 * (value - middle)) / reach;
  const text = (value: number) =>
    points ? `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(1)}` : value.toFixed(2);
  return (
    <div aria-hidden="true" className="self-center text-xs text-ash">
      <div className="relative h-9">
        <span
          className="absolute top-1 h-3 rounded-sm border border-dashed border-ash/70"
          style={{
            left: `${at(one.before.low)}%`,
            width: `${at(one.before.high) - at(one.before.low)}%`,
          }}
        />
        <span
          className={`absolute top-5 h-3 rounded-sm ${INK[one.kind]}`}
          style={{
            left: `${at(one.after.low)}%`,
            width: `${at(one.after.high) - at(one.after.low)}%`,
          }}
        />
        <span
          className="absolute top-4 h-5 w-0.5 bg-ink"
          style={{ left: `${at(one.after.middle)}%` }}
        />
        <span className="absolute top-0 h-9 w-px bg-ink/50" style={{ left: "50%" }} />
      </div>
      <div className="flex justify-between">
        <span>{text(middle - reach)}</span>
        <span>{points ? "right" : "as typed"}</span>
        <span>{text(middle + reach)}</span>
      </div>
    </div>
  );
}
