import { area, curveLinear, line } from "d3-shape";

export interface Point {
  x: number;
  y: number;
}

const asLine = line<Point>(
  (p) => p.x,
  (p) => p.y,
).curve(curveLinear);

/** A line through points, as SVG path data. */
export function linePath(points: readonly Point[]): string {
  return asLine(points) ?? "";
}

/** The area between points and a level line at `base`. */
export function areaPath(points: readonly Point[], base: number): string {
  return (
    area<Point>()
      .x((p) => p.x)
      .y1((p) => p.y)
      .y0(base)(points) ?? ""
  );
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
