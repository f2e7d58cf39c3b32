import type { DayReport, Odds, RunReport } from "../api/client";
import type { Point } from "../drawing/paths";

/** Room left of every curve for the words of its scale, CSS pixels. */
export const GUTTER = 56;
/** Room above the plot for the flag of now. */
export const TOP = 8;
/** Above so many days nights are too thin to be drawn. */
const MOST_NIGHTS = 31;

/** Where the steps and levels of some days of a trip stand in a plot. */
export interface CurveScale {
  days: readonly DayReport[];
  from: number;
  to: number;
  stepMin: number;
  width: number;
  height: number;
  x: (step: number) => number;
  y: (level: number) => number;
}

/** The scale of a run's days `first` to `first + count`, in a plot of so many pixels. */
export function curveScale(
  run: RunReport,
  width: number,
  height: number,
  first = 0,
  count = run.days.length,
): CurveScale | null {
  const days = run.days.slice(first, first + count);
  const begin = days[0];
  const end = days.at(-1);
  if (!begin || !end || !run.series) return null;
  const from = begin.first_step;
  const to = end.first_step + end.steps;
  const perStep = width / Math.max(to - from, 1);
  return {
    days,
    from,
    to,
    stepMin: run.series.step_min,
    width,
    height,
    x: (step) => (step - from) * perStep,
    y: (level) => height - (Math.min(Math.max(level, 0), 100) / 100) * height,
  };
}

/** The level as points, about one a pixel. */
export function levelPoints({ from, to, width, x, y }: CurveScale, levels: readonly number[]) {
  const every = Math.max(1, Math.floor((to - from) / Math.max(width, 1)));
  const points: Point[] = [];
  for (let step = from; step <= to; step += every) {
    const level = levels[step];
    if (level !== undefined) points.push({ x: x(step), y: y(level) });
  }
  return points;
}

/** A band's edges and middle over the days of a scale. */
export function bandPoints({ from, to, stepMin, x, y }: CurveScale, band: Odds["band"]) {
  const per = band.step_min / stepMin;
  const first = Math.ceil(from / per);
  const last = Math.floor(to / per);
  const points = (values: readonly number[]): Point[] =>
    values
      .slice(first, last + 1)
      .map((level, i) => ({ x: x((first + i) * per), y: y(Math.max(level, 0)) }));
  return { low: points(band.low), middle: points(band.middle), high: points(band.high) };
}

/** The dark hours of the days of a scale, as stretches of pixels; none where they are too thin. */
export function nights({ days, stepMin, x }: CurveScale): { from: number; to: number }[] {
  if (days.length > MOST_NIGHTS) return [];
  return days.flatMap((day) => {
    if (day.sun_up_all_day) return [];
    const at = (minute: number) => x(day.first_step + minute / stepMin);
    if (day.sunrise_min == null && day.sunset_min == null)
      return [{ from: at(0), to: at(day.minutes) }];
    return [
      { from: at(0), to: at(day.sunrise_min ?? 0) },
      { from: at(day.sunset_min ?? day.minutes), to: at(day.minutes) },
    ].filter((dark) => dark.to > dark.from);
  });
}

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Where a text of this size stands beside a point without a line through it: the first place of
 * those around the point that no point of the line reaches, else the one above it.
 */
export function freePlace(
  at: Point,
  wide: number,
  high: number,
  line: readonly Point[],
  plot: { width: number; height: number },
): Box {
  const gap = 10;
  const places = [
    [gap, -high - 4],
    [-wide - gap, -high - 4],
    [gap, 6],
    [-wide - gap, 6],
    [-wide / 2, -high - 26],
    [-wide / 2, gap],
  ];
  const boxes = places.map(([dx = 0, dy = 0]) => ({
    x: Math.min(Math.max(at.x + dx, 4), Math.max(plot.width - wide - 4, 4)),
    y: Math.min(Math.max(at.y + dy, 2), plot.height - high - 2),
    width: wide,
    height: high,
  }));
  const crossed = (box: Box) =>
    line.filter(
      (p) => p.x > box.x - 3 && p.x < box.x + wide + 3 && p.y > box.y - 3 && p.y < box.y + high + 3,
    ).length;
  return boxes.toSorted((a, b) => crossed(a) - crossed(b))[0] as Box;
}
