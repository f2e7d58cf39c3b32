import { expect, test } from "vitest";
import { monthsOf } from "./PlaceYear";

test("a trip over a month's end falls into both months", () => {
  expect([...monthsOf("2026-06-28", 5)]).toEqual([5, 6]);
});

test("the turn of the year is passed", () => {
  expect([...monthsOf("2026-12-31", 2)]).toEqual([11, 0]);
});

test("a year has twelve months, and a day one", () => {
  expect(monthsOf("2026-02-01", 365).size).toBe(12);
  expect([...monthsOf("2028-02-29", 1)]).toEqual([1]);
});
