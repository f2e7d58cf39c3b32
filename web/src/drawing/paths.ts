import { curveLinear, line } from "d3-shape";

export interface Point {
  x: number;
  y: number;
}

// A tenth of a pixel is finer than any screen. Rounded here: the library's own rounding took a
// fifth of every redraw.
const tenth = (value: number): number => Math.round(value * 10) / 10;
const asLine = line<Point>(
  (p) => tenth(p.x),
  (p) => tenth(p.y),
)
  .curve(curveLinear)
  .digits(null);

/** A line through points, as SVG path data. */
export function linePath(points: readonly Point[]): string {
  return asLine(points) ?? "";
}

/** The area between points and a level line at `base`. */
export function areaPath(points: readonly Point[], base: number): string {
  return closedOn(linePath(points), points, base);
}

/** A line that is drawn already, closed on a level line at `base`. */
export function closedOn(path: string, points: readonly Point[], base: number): string {
  const first = points[0];
  return first ? `${path}V${tenth(base)}H${tenth(first.x)}Z` : "";
}

/** A ribbon of constant thickness from one upright edge to another. */
export function ribbonPath(
  x0: number,
  top0: number,
  x1: number,
  top1: number,
  thick: number,
): string {
  const bend = (x0 + x1) / 2;
  return (
    `M${x0},${top0}C${bend},${top0} ${bend},${top1} ${x1},${top1}` +
    `V${top1 + thick}C${bend},${top1 + thick} ${bend},${top0 + thick} ${x0},${top0 + thick}Z`
  );
}

/**
 * Corners of a stair of values, one a step, with corners only where the value changes.
 * `x` places a step's edge and `y` a value.
 */
export function stairPoints(
  values: readonly number[],
  x: (step: number) => number,
  y: (value: number) => number,
): Point[] {
  const points: Point[] = [];
  for (let i = 0; i < values.length; ) {
    const value = values[i] ?? 0;
    let next = i + 1;
    while (next < values.length && values[next] === value) next++;
    points.push({ x: x(i), y: y(value) }, { x: x(next), y: y(value) });
    i = next;
  }
  return points;
}

/** The area between two lines that run side by side. */
export function ringPath(upper: readonly Point[], lower: readonly Point[]): string {
  if (upper.length === 0) return "";
  return `${linePath([...upper, ...lower.toReversed()])}Z`;
}
