import type { RunReport } from "../../../api/client";
import { areaPath, linePath, stairPoints } from "../../../drawing/paths";
import { useUnit } from "../../../plan/context";
import { Figure } from "../../../plan/sums";
import { clockOf, DAY_MIN } from "../../../quantities/clock";
import { clockText } from "../../../quantities/habits";
import { amountText, percentText, shortFigure } from "../../../quantities/units";
import { useHabits } from "../../../quantities/useHabits";
import { axisMin } from "./lanes";

const HEIGHT = 62;

interface Props {
  use: RunReport["use"];
  width: number;
  night: React.ReactNode;
}

/** All appliances at once: the current through the day, its peak, and the day's sum. */
export function Together({ use, width, night }: Props) {
  const unit = useUnit();
  const habits = useHabits();
  const slots = use.draws[0]?.profile_a.length ?? 0;
  const total = Array.from({ length: slots }, (_, i) =>
    use.draws.reduce((sum, draw) => sum + (draw.profile_a[i] ?? 0), 0),
  );
  const minutes = DAY_MIN / Math.max(slots, 1);
  const fromNoon = total.map((_, i) => total[(i + slots / 2) % slots] ?? 0);
  const most = Math.max(...fromNoon, 1e-9);
  const points = stairPoints(
    fromNoon,
    (step) => ((step * minutes) / DAY_MIN) * width,
    (amps) => HEIGHT - (amps / most) * (HEIGHT - 8),
  );
  return (
    <div className="mt-1 grid grid-cols-[1fr_auto] items-center gap-x-2 border-t-2 border-rim pt-2 sm:grid-cols-[14.4rem_1fr_10.5rem]">
      <div className="pl-2 leading-tight">
        <span className="font-head font-bold">Together</span>
        <span className="block text-sm text-ash">
          up to <Figure of="peak">{shortFigure(use.peak_a)} A</Figure> at{" "}
          {clockText(clockOf(use.peak_min), habits)} if all run at once
          <br />
          <Figure of="night">{percentText(use.night_percent)}</Figure> of it by night, standby{" "}
          <Figure of="standby">
            {amountText(use.standby_a_day, unit)} {unit}
          </Figure>
        </span>
      </div>
      <svg
        width={width}
        height={HEIGHT}
        className="order-last col-span-2 block rounded-[5px] sm:order-none sm:col-span-1"
        role="img"
        aria-label={`Current through the day, at most ${shortFigure(most)} A on average over five minutes`}
      >
        {night}
        <path d={areaPath(points, HEIGHT)} fill="var(--color-use-tint)" />
        <path d={linePath(points)} fill="none" stroke="var(--color-use)" strokeWidth="1.6" />
        <line
          x1={(axisMin(use.peak_min) / DAY_MIN) * width}
          x2={(axisMin(use.peak_min) / DAY_MIN) * width}
          y2={HEIGHT}
          stroke="var(--color-use)"
          strokeDasharray="2 3"
        />
      </svg>
      <div>
        <span className="font-head text-2xl font-bold">
          <Figure of="use">
            {amountText(use.a_day, unit)} {unit}
          </Figure>
        </span>
        <span className="block text-sm text-ash">
          {amountText(use.a_day, unit === "Ah" ? "Wh" : "Ah")} {unit === "Ah" ? "Wh" : "Ah"};{" "}
          <Figure of="guess">± {amountText(use.spread, unit)}</Figure> while{" "}
          {percentText(use.guess_percent)} is guessed
        </span>
      </div>
    </div>
  );
}
