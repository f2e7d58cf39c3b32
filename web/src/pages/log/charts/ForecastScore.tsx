import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { answer, client, type Score, type ScoredPart } from "../../../api/client";
import { LevelLines } from "../../../drawing/Axes";
import { useWidth } from "../../../drawing/useWidth";
import { usePlanPart } from "../../../plan/context";

const HEIGHT = 150;
const LEFT = 52;
const BOTTOM = 26;
const WIDEST = 64;

/** How the app's own forecasts came out: each morning's band of the day before, and what came. */
export function ForecastScore() {
  const plan = usePlanPart((state) => state.plan);
  const score = useQuery({
    queryKey: ["score", plan.id, plan.revision],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/track/score", { params: { path: { plan_id: plan.id } } }),
      ),
    placeholderData: (before) => before,
  });
  if (!score.data) return null;
  const { days, leans, text } = score.data;
  return (
    <section aria-label="How the forecasts came out" className="plate mb-3 p-4">
      <h2 className="text-lg">How the forecasts came out</h2>
      <p data-testid="score">{text}</p>
      {days.length > 0 && <Mornings days={days} />}
      {leans.map((lean) => (
        <p key={lean} className="mt-2 font-semibold">
          {lean}
        </p>
      ))}
    </section>
  );
}

function Mornings({ days }: { days: Score["days"] }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const y = scaleLinear([0, 100], [HEIGHT - BOTTOM, 10]);
  const pitch = Math.min(Math.max(width - LEFT - 8, 0) / days.length, WIDEST);
  const every = Math.ceil(44 / Math.max(pitch, 1));
  return (
    <div ref={ref} className="mt-2">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={days.map((day) => `${day.name}: ${words(day.level)}`).join("; ")}
      >
        <LevelLines
          ticks={[0, 50, 100]}
          y={y}
          from={LEFT}
          to={width - 8}
          text={(level) => `${level} %`}
        />
        {days.map((day, at) => {
          const middle = LEFT + (at + 0.5) * pitch;
          const { band, came, inside } = day.level;
          return (
            <g key={day.day}>
              <title>{`${day.name}: ${words(day.level)}`}</title>
              <rect
                x={middle - pitch * 0.25}
                width={pitch * 0.5}
                y={y(band.high)}
                height={Math.max(y(band.low) - y(band.high), 2)}
                rx="4"
                fill="var(--color-level-tint)"
                stroke="var(--color-level)"
              />
              {inside ? (
                <circle cx={middle} cy={y(came)} r="5" fill="var(--color-level)" />
              ) : (
                <path
                  d={`M${middle} ${y(came) - 7}l7 7l-7 7l-7 -7Z`}
                  fill="var(--color-plate)"
                  stroke="var(--color-danger)"
                  strokeWidth="2.5"
                />
              )}
              {at % every === 0 && (
                <text
                  x={middle}
                  y={HEIGHT - 6}
                  textAnchor="middle"
                  fontSize="13"
                  fill="var(--color-ash)"
                >
                  {day.name}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <p className="text-sm text-ash">
        A bar is what the day before foresaw for the next morning, a dot is where it then stood; a
        red diamond lies outside.
      </p>
    </div>
  );
}

function words({ band, came }: ScoredPart): string {
  return `foreseen ${Math.round(band.low)} to ${Math.round(band.high)} %, came ${Math.round(came)} %`;
}
