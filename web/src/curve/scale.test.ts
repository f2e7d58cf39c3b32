import { describe, expect, it } from "vitest";
import type { RunReport } from "../api/client";
import { curveScale, freePlace, levelPoints, nights } from "./scale";

/** A run of whole days at steps of half an hour, with the level that a function gives. */
function run(days: number, level: (step: number) => number = () => 50): RunReport {
  return {
    days: Array.from({ length: days }, (_, i) => ({
      date: `2026-06-0${i + 1}`,
      first_step: 48 * i,
      steps: 48,
      minutes: 1440,
      sunrise_min: 300,
      sunset_min: 1260,
      sun_up_all_day: false,
    })),
    series: {
      step_min: 30,
      level_percent: Array.from({ length: 48 * days + 1 }, (_, i) => level(i)),
    },
  } as unknown as RunReport;
}

describe("the scale of a curve", () => {
  it("gives every day its share of the width, and a window of days the whole of it", () => {
    const whole = curveScale(run(9), 900, 100);
    expect(whole?.days.map((day) => Math.round(whole.x(day.first_step)))).toEqual(
      Array.from({ length: 9 }, (_, i) => 100 * i),
    );
    const some = curveScale(run(9), 900, 100, 3, 3);
    expect([some?.x(48 * 3), some?.x(48 * 6)]).toEqual([0, 900]);
  });

  it("holds 0 to 100 %, whatever is asked", () => {
    const scale = curveScale(run(1), 100, 200);
    expect([120, 100, 50, 0, -3].map((level) => scale?.y(level))).toEqual([0, 0, 100, 200, 200]);
  });

  it("draws no more points than there are pixels, and leaves none of the ends out", () => {
    const scale = curveScale(
      run(9, (i) => i % 100),
      60,
      100,
    );
    const points = scale ? levelPoints(scale, run(9).series?.level_percent ?? []) : [];
    expect(points.length).toBeLessThanOrEqual(2 * 60);
    expect(points[0]?.x).toBe(0);
    expect(points.at(-1)?.x).toBeGreaterThan(58);
  });

  it("is dark from midnight to sunrise and from sunset on, and not at all over months", () => {
    const scale = curveScale(run(2), 960, 100);
    // 480 px a day: five hours of the morning are 100 of them, three of the evening 60.
    expect(scale && nights(scale)).toEqual([
      { from: 0, to: 100 },
      { from: 420, to: 480 },
      { from: 480, to: 580 },
      { from: 900, to: 960 },
    ]);
    const months = curveScale(run(40), 960, 100);
    expect(months && nights(months)).toEqual([]);
  });
});

describe("a figure beside a point", () => {
  const plot = { width: 400, height: 160 };
  const inside = (box: { x: number; y: number; width: number; height: number }) =>
    box.x >= 0 &&
    box.y >= 0 &&
    box.x + box.width <= plot.width &&
    box.y + box.height <= plot.height;

  it("stands inside the plot and on no line, wherever the point is", () => {
    for (const x of [0, 60, 200, 340, 400])
      for (const y of [0, 20, 80, 140, 160]) {
        const line = Array.from({ length: 41 }, (_, i) => ({ x: 10 * i, y }));
        const box = freePlace({ x, y }, 120, 18, line, plot);
        expect([x, y, inside(box)]).toEqual([x, y, true]);
        const crossed = line.some(
          (p) => p.x > box.x && p.x < box.x + 120 && p.y > box.y && p.y < box.y + 18,
        );
        expect([x, y, crossed]).toEqual([x, y, false]);
      }
  });
});
