import { scaleLinear } from "d3-scale";
import type { RunReport } from "../../api/client";
import { LevelLines } from "../../drawing/Axes";
import { areaPath, linePath, ringPath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { dayName } from "../../quantities/clock";

const HEIGHT = 240;
const LEFT = 44;
const FOOT = 24;

/** The level over the whole trip with its band, the nights dark, the reserve a line. */
export function LevelPicture({ run, floor }: { run: RunReport; floor: number }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { series, odds, days } = run;
  if (!series) return null;
  const last = Math.max(series.level_percent.length - 1, 1);
  const x = scaleLinear([0, last], [LEFT, width - 4]);
  const y = scaleLinear([0, 100], [HEIGHT - FOOT, 6]);
  const every = Math.max(1, Math.floor(last / Math.max(width, 1)));
  const line = series.level_percent.flatMap((level, i) =>
    i % every === 0 || i === last ? [{ x: x(i), y: y(level) }] : [],
  );
  const band = (values: readonly number[]) =>
    values.map((level, i) => ({
      x: x((i * (odds?.band.step_min ?? 1)) / series.step_min),
      y: y(Math.max(level, 0)),
    }));
  const step = series.step_min;
  const long = days.length > 31;
  return (
    <div ref={ref} className="min-w-0">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        className="block"
        aria-label={`The level: ${run.headline}`}
      >
        <rect
          x={LEFT}
          y={y(100)}
          width={Math.max(width - LEFT - 4, 0)}
          height={y(0) - y(100)}
          fill="var(--color-day)"
        />
        {!long &&
          days.flatMap((day) => {
            if (day.sun_up_all_day) return [];
            const rise = (day.sunrise_min ?? day.minutes) / step;
            const set = (day.sunset_min ?? 0) / step;
            const dark: [number, number][] =
              day.sunrise_min == null
                ? [[0, day.steps]]
                : [
                    [0, rise],
                    [set, day.steps],
                  ];
            return dark.map(([from, to]) => (
              <rect
                key={`${day.date}${from}`}
                x={x(day.first_step + from)}
                width={Math.max(x(to) - x(from), 0)}
                y={y(100)}
                height={y(0) - y(100)}
                fill="var(--color-night)"
              />
            ));
          })}
        <LevelLines ticks={[0, 50, 100]} y={y} from={LEFT} to={width - 4} text={(v) => `${v} %`} />
        <path d={areaPath(line, y(0))} fill="var(--color-level-tint)" fillOpacity=".35" />
        {odds && (
          <path
            d={ringPath(band(odds.band.high), band(odds.band.low))}
            fill="var(--color-level)"
            fillOpacity=".3"
          />
        )}
        <path d={linePath(line)} fill="none" stroke="var(--color-level)" strokeWidth="2.6" />
        <line
          x1={LEFT}
          x2={width - 4}
          y1={y(floor)}
          y2={y(floor)}
          stroke="var(--color-danger)"
          strokeWidth="2"
          strokeDasharray="6 4"
        />
        <text x={LEFT + 6} y={y(floor) - 5} fontSize="13" fill="var(--color-danger)">
          your reserve, {floor} %
        </text>
        {days.map((day, i) =>
          days.length <= 8 || i % Math.ceil(days.length / 6) === 0 ? (
            <text
              key={day.date}
              x={x(day.first_step) + 3}
              y={HEIGHT - 7}
              fontSize="13"
              fill="var(--color-ash)"
            >
              {long ? day.date.slice(0, 7) : dayName(day.date)}
            </text>
          ) : null,
        )}
      </svg>
      <p className="mt-1 text-sm text-ash">
        The line is what to expect. In 8 trips of 10 the level stays in the band.
      </p>
    </div>
  );
}
