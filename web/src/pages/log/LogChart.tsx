import { scaleLinear } from "d3-scale";
import type { LogEntry, RunReport } from "../../api/client";
import { areaPath, linePath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { dayName } from "../../quantities/clock";

const HEIGHT = 190;
const FOOT = 22;

interface Props {
  run: RunReport;
  floor: number;
  entries: readonly LogEntry[];
}

/** The planned level over the trip, and the readings beside it. */
export function LogChart({ run, floor, entries }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { series } = run;
  if (!series) return null;
  const levels = series.level_percent;
  const x = scaleLinear([0, levels.length - 1], [30, width - 4]);
  const y = scaleLinear([0, 100], [HEIGHT - FOOT, 6]);
  const every = Math.max(1, Math.floor(levels.length / Math.max(width, 1)));
  const points = levels.flatMap((level, i) => (i % every === 0 ? [{ x: x(i), y: y(level) }] : []));
  const named = Math.ceil(run.days.length / Math.max(Math.floor(width / 60), 1));
  return (
    <div ref={ref} className="min-w-0">
      <svg width={width} height={HEIGHT} role="img" aria-label="Planned level and readings">
        {[0, 50, 100].map((level) => (
          <g key={level}>
            <line x1={30} x2={width - 4} y1={y(level)} y2={y(level)} stroke="var(--color-line)" />
            <text x={26} y={y(level) + 4} textAnchor="end" fontSize="12" fill="var(--color-ash)">
              {level}
            </text>
          </g>
        ))}
        <path d={areaPath(points, y(0))} fill="var(--color-level-tint)" fillOpacity=".5" />
        <path d={linePath(points)} fill="none" stroke="var(--color-level)" strokeWidth="2" />
        <line
          x1={30}
          x2={width - 4}
          y1={Math.round(y(floor))}
          y2={Math.round(y(floor))}
          stroke="var(--color-danger)"
          strokeWidth="2"
          strokeDasharray="5 4"
        />
        {run.days.map((day, i) => (
          <g key={day.date}>
            <line
              x1={x(day.first_step)}
              x2={x(day.first_step)}
              y1={y(100)}
              y2={HEIGHT - FOOT}
              stroke="var(--color-line)"
            />
            {i % named === 0 && (
              <text x={x(day.first_step) + 4} y={HEIGHT - 6} fontSize="12" fill="var(--color-ash)">
                {dayName(day.date)}
              </text>
            )}
          </g>
        ))}
        {entries.map((entry) => (
          <g key={entry.id}>
            <line
              x1={x(entry.step)}
              x2={x(entry.step)}
              y1={y(entry.high_percent)}
              y2={y(entry.low_percent)}
              stroke="var(--color-ink)"
              strokeOpacity=".35"
              strokeWidth="6"
              strokeLinecap="round"
            />
            <path
              d={`M${x(entry.step)},${y(entry.mid_percent) - 5}l5,5l-5,5l-5,-5z`}
              fill="var(--color-plate)"
              stroke="var(--color-ink)"
              strokeWidth="1.7"
            />
          </g>
        ))}
      </svg>
    </div>
  );
}
