import { scaleLinear } from "d3-scale";
import { Link } from "react-router";
import { areaPath, linePath } from "../drawing/paths";
import { useWidth } from "../drawing/useWidth";
import { dayName } from "../quantities/clock";
import { percentText } from "../quantities/units";
import { useBenchState } from "./context";

const HEIGHT = 54;

/** The whole trip's level, in sight on every page but Trip; it moves as anything is edited. */
export function LevelStrip() {
  const { run, draft, plan } = useBenchState();
  const [ref, width] = useWidth<HTMLDivElement>();
  const series = run.series;
  if (!series) return null;
  const levels = series.level_percent;
  const x = scaleLinear([0, levels.length - 1], [0, width]);
  const y = scaleLinear([0, 100], [HEIGHT - 3, 4]);
  const every = Math.max(1, Math.floor(levels.length / Math.max(width, 1)));
  const points = levels.flatMap((level, i) =>
    i % every === 0 || i === levels.length - 1 ? [{ x: x(i), y: y(level) }] : [],
  );
  const floor = draft.trip.floor_percent;
  const { verdict } = run;

  return (
    <section
      aria-label="Battery level over the whole trip"
      className="plate my-3 grid grid-cols-[1fr_auto] items-center gap-x-4 px-3 py-1.5 sm:grid-cols-[13.5rem_1fr_auto]"
    >
      <p className="leading-tight">
        <strong className="font-head">{verdict.headline}</strong>
        <span className="block text-sm text-ash">
          lowest{" "}
          <span
            className={verdict.lasts ? "" : "font-semibold text-danger"}
            data-testid="strip-lowest"
          >
            {percentText(verdict.lowest_percent)}
          </span>
          , {dayName(verdict.lowest_at.slice(0, 10))} {verdict.lowest_at.slice(11, 16)}
        </span>
      </p>
      <div ref={ref} className="order-last col-span-2 min-w-0 sm:order-none sm:col-span-1">
        <svg width={width} height={HEIGHT} className="block" aria-hidden="true">
          {run.days.map((day, i) =>
            i % 2 ? null : (
              <rect
                key={day.date}
                x={x(day.first_step)}
                width={x(day.steps)}
                height={HEIGHT}
                fill="#efe7d4"
                fillOpacity=".55"
              />
            ),
          )}
          <path d={areaPath(points, HEIGHT)} fill="var(--color-level-tint)" fillOpacity=".55" />
          <path d={linePath(points)} fill="none" stroke="var(--color-level)" strokeWidth="2.2" />
          <line
            x1={0}
            x2={width}
            y1={Math.round(y(floor))}
            y2={Math.round(y(floor))}
            stroke="var(--color-danger)"
            strokeWidth="2"
            strokeDasharray="5 4"
          />
        </svg>
      </div>
      <Link className="text-sm underline" to={`/plan/${plan.id}/trip`}>
        open the trip
      </Link>
    </section>
  );
}
