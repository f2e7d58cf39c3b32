import { memo } from "react";
import type { DayReport, Odds, Series } from "../../../api/client";
import {
  areaPath,
  closedOn,
  linePath,
  type Point,
  ringPath,
  stairPoints,
} from "../../../drawing/paths";
import type { RowShape } from "./geometry";

/** The drawn fade on either side of the sun's crossing; a look, not a computation. */
const TWILIGHT_MIN = 40;

interface Props {
  day: DayReport;
  series: Series;
  band: Odds["band"] | null;
  /** What all arrays put in, step by step [A]. */
  sunA: readonly number[];
  /** Step of now on a trip that is under way: its band is tracked before, drawn anew after. */
  now: number | null;
  floor: number;
  width: number;
  shape: RowShape;
  /** Pixels an ampere, the same up and down and in every row. */
  perAmp: number;
}

/** One day's drawing: light, level and floor, sun above the base line and use below it. */
export const DayPlot = memo(function DayPlot(props: Props) {
  const { day, series, sunA, band, now, floor, width, shape, perAmp } = props;
  const x = (minute: number) => (minute / day.minutes) * width;
  const y = (level: number) =>
    shape.levelBottom - (level / 100) * (shape.levelBottom - shape.levelTop);
  const steps = Array.from({ length: day.steps + 1 }, (_, i) => i);
  const at = (i: number) => x(i * series.step_min);
  const levels: Point[] = steps.map((i) => ({
    x: at(i),
    y: y(series.level_percent[day.first_step + i] ?? 0),
  }));
  const levelLine = linePath(levels);
  const across = band && bandPoints(band, day, series.step_min, x, y);
  const floorY = y(floor);
  const stairs = (values: readonly number[], sign: number): Point[] =>
    stairPoints(
      values.slice(day.first_step, day.first_step + day.steps),
      at,
      (amps) => shape.base - sign * amps * perAmp,
    );
  const [rise, set] = daySpan(day);
  const nowX = now === null ? null : ((now - day.first_step) / day.steps) * width;

  return (
    <>
      <rect width={width} height={shape.height} fill="var(--color-night)" />
      {set > rise && (
        <rect x={x(rise)} width={x(set - rise)} height={shape.height} fill="var(--color-day)" />
      )}
      {day.sunrise_min != null && (
        <rect
          x={x(rise - TWILIGHT_MIN)}
          width={x(TWILIGHT_MIN)}
          height={shape.height}
          fill="url(#dawn)"
        />
      )}
      {day.sunset_min != null && (
        <rect x={x(set)} width={x(TWILIGHT_MIN)} height={shape.height} fill="url(#dusk)" />
      )}
      {[3, 6, 9, 12, 15, 18, 21].map((hour) => (
        <line
          key={hour}
          x1={x(hour * 60)}
          x2={x(hour * 60)}
          y2={shape.height}
          stroke="var(--color-ink)"
          strokeOpacity={hour % 6 ? 0.05 : 0.11}
        />
      ))}
      {nowX !== null && nowX > 0 && (
        <rect width={Math.min(nowX, width)} height={shape.height} fill="url(#pat-gone)" />
      )}
      <path
        d={closedOn(
          across && now !== null ? linePath(across.middle) : levelLine,
          across && now !== null ? across.middle : levels,
          shape.levelBottom,
        )}
        fill="var(--color-level-tint)"
        fillOpacity=".75"
      />
      {across && (
        <>
          <path d={ringPath(across.high, across.low)} fill="url(#pat-band)" data-testid="band" />
          <path
            d={linePath(across.middle)}
            fill="none"
            stroke="var(--color-level)"
            strokeWidth={now === null ? 1.3 : 3}
            strokeDasharray={now === null ? "1.5 3" : undefined}
          />
        </>
      )}
      {day.below_floor_min > 0 && (
        <path
          d={areaPath(
            levels.map((p) => ({ x: p.x, y: Math.max(p.y, floorY) })),
            floorY,
          )}
          fill="url(#pat-below)"
        />
      )}
      <path
        d={levelLine}
        fill="none"
        stroke={now === null ? "var(--color-level)" : "var(--color-ink)"}
        strokeOpacity={now === null ? 1 : 0.6}
        strokeWidth={now === null ? 3 : 1}
        strokeLinejoin="round"
      />
      <line x2={width} y1={y(50)} y2={y(50)} stroke="var(--color-ink)" strokeOpacity=".12" />
      {[100, 50, 0].map((level) =>
        // What would stand on the reserve's own word gives way to it.
        Math.abs(y(level) - floorY) < 13 ? null : (
          <text
            key={level}
            x={-6}
            y={y(level) + (level === 100 ? 8 : 4)}
            textAnchor="end"
            fontSize="13"
            fill="var(--color-ash)"
          >
            {level}
          </text>
        ),
      )}
      <text
        x={-6}
        y={floorY + 4}
        textAnchor="end"
        fontSize="13"
        fontWeight="600"
        fill="var(--color-danger)"
      >
        {Math.round(floor)} %
      </text>
      <path d={areaPath(stairs(sunA, 1), shape.base)} fill="var(--color-sun)" />
      <path
        d={areaPath(stairs(series.load_a, -1), shape.base)}
        fill="var(--color-use)"
        fillOpacity=".9"
      />
      {nowX !== null && nowX >= 0 && nowX <= width && (
        <g data-testid="now-mark">
          <line x1={nowX} x2={nowX} y2={shape.height} stroke="var(--color-rim)" strokeWidth="2.4" />
          <path d={`M${nowX - 5},0h10l-5,7z`} fill="var(--color-rim)" />
        </g>
      )}
    </>
  );
});

/** The band's edges and middle within a day. */
function bandPoints(
  band: Odds["band"],
  day: DayReport,
  stepMin: number,
  x: (minute: number) => number,
  y: (level: number) => number,
) {
  const start = day.first_step * stepMin;
  const first = Math.ceil(start / band.step_min);
  const count = Math.floor((start + day.steps * stepMin) / band.step_min) - first + 1;
  const points = (values: readonly number[]): Point[] =>
    values
      .slice(first, first + count)
      .map((level, i) => ({ x: x((first + i) * band.step_min - start), y: y(Math.max(level, 0)) }));
  return { low: points(band.low), middle: points(band.middle), high: points(band.high) };
}

/** Sunrise and sunset in minutes of the day; all of it under a midnight sun, none in polar night. */
function daySpan(day: DayReport): [number, number] {
  if (day.sunrise_min == null && day.sunset_min == null) {
    return day.sun_up_all_day ? [0, day.minutes] : [0, 0];
  }
  return [day.sunrise_min ?? 0, day.sunset_min ?? day.minutes];
}
