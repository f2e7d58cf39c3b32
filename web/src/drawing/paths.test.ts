import { describe, expect, it } from "vitest";
import { areaPath, linePath, ribbonPath, ringPath, stairPoints } from "./paths";

const same = (value: number) => value;

describe("paths", () => {
  it("draw a line with a tenth of a pixel", () => {
    const points = [
      { x: 0, y: 1 / 3 },
      { x: 10, y: 2 },
    ];
    expect(linePath(points)).toBe("M0,0.3L10,2");
    expect(linePath([])).toBe("");
  });

  it("close an area on its base", () => {
    const points = [
      { x: 0, y: 5 },
      { x: 10, y: 5 },
    ];
    expect(areaPath(points, 20)).toBe("M0,5L10,5V20H0Z");
  });

  it("keep a ribbon's thickness from end to end", () => {
    const numbers =
      ribbonPath(0, 10, 100, 50, 8)
        .match(/-?\d+(\.\d+)?/g)
        ?.map(Number) ?? [];
    expect(numbers.slice(0, 2)).toEqual([0, 10]);
    expect(numbers).toContain(58);
    expect(numbers.at(-1)).toBe(18);
  });
});

describe("stairs", () => {
  it("have corners only where the value changes", () => {
    expect(stairPoints([2, 2, 2, 5, 5, 0], same, same)).toEqual([
      { x: 0, y: 2 },
      { x: 3, y: 2 },
      { x: 3, y: 5 },
      { x: 5, y: 5 },
      { x: 5, y: 0 },
      { x: 6, y: 0 },
    ]);
  });

  it("cover every step of any series", () => {
    const values = Array.from({ length: 50 }, (_, i) => Math.floor(i / 7) % 3);
    const points = stairPoints(values, same, same);
    values.forEach((value, step) => {
      const under = points.findLast((p) => p.x <= step + 0.5);
      expect(under?.y).toBe(value);
    });
  });

  it("are nothing for no steps", () => {
    expect(stairPoints([], same, same)).toEqual([]);
  });
});

describe("a ring", () => {
  it("runs along one edge and back along the other, and closes", () => {
    const upper = [
      { x: 0, y: 1 },
      { x: 2, y: 1 },
    ];
    const lower = [
      { x: 0, y: 5 },
      { x: 2, y: 4 },
    ];
    const path = ringPath(upper, lower);
    expect(path.match(/-?\d+(\.\d+)?/g)?.map(Number)).toEqual([0, 1, 2, 1, 2, 4, 0, 5]);
    expect(path.endsWith("Z")).toBe(true);
    expect(ringPath([], [])).toBe("");
  });
});
