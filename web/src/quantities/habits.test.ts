import { describe, expect, it } from "vitest";
import {
  areaOf,
  awgOf,
  clockText,
  degreesText,
  type Habits,
  shownUnit,
  USUAL_HABITS,
  weightText,
} from "./habits";

const OTHER: Habits = {
  temperature: "F",
  cable: "AWG",
  weight: "lb",
  clock: "12",
  currency: "USD",
};

describe("habits", () => {
  it.each([
    [18, 0.823],
    [10, 5.26],
    [4, 21.15],
    [0, 53.5],
    [-1, 67.4],
  ])("know the area of AWG %i", (awg, area) => {
    expect(areaOf(awg)).toBeCloseTo(area, area < 10 ? 2 : 1);
    expect(awgOf(area)).toBeCloseTo(awg, 1);
  });

  it.each(["C", "K", "mm2", "kg", "A"])("show %s and read it back", (unit) => {
    for (const habits of [USUAL_HABITS, OTHER]) {
      const shown = shownUnit(unit, habits);
      expect(shown.from(shown.to(7.3))).toBeCloseTo(7.3, 9);
    }
  });

  it("freeze and boil where they should, and tell differences from degrees", () => {
    expect([0, 100].map((c) => shownUnit("C", OTHER).to(c))).toEqual([32, 212]);
    expect(shownUnit("K", OTHER).to(10)).toBe(18);
    expect(degreesText(-0.3, USUAL_HABITS)).toBe("0 °C");
    expect(degreesText(-10.6, USUAL_HABITS)).toBe("−11 °C");
    expect(weightText(10, OTHER)).toBe("22 lb");
  });

  it.each([
    ["00:00", "12:00 am"],
    ["12:05", "12:05 pm"],
    ["23:59", "11:59 pm"],
    ["24:00", "12:00 am"],
  ])("write %s as %s", (clock, text) => {
    expect(clockText(clock, OTHER)).toBe(text);
    expect(clockText(clock, USUAL_HABITS)).toBe(clock);
  });
});
