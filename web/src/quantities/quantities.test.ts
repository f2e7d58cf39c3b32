import { describe, expect, it } from "vitest";
import { clockOf, dateAfter, dayName, minutesOf, parseClock } from "./clock";
import { limitOf, parseNumber } from "./parse";
import {
  amountIn,
  amountText,
  hoursText,
  plainFigure,
  shortFigure,
  sumAmounts,
  unbroken,
} from "./units";

const amps = { least: 0.5, most: 300, unit: "A", whole: false };

describe("typed numbers", () => {
  it("takes a decimal point or a comma", () => {
    expect(parseNumber("12.5", amps)).toEqual({ ok: true, value: 12.5 });
    expect(parseNumber(" 12,5 ", amps)).toEqual({ ok: true, value: 12.5 });
  });

  it.each([
    ["", "Nothing is typed here. Enter 0.5 to 300 A."],
    ["ten", "“ten” is not a number. Enter 0.5 to 300 A."],
    ["-3", "-3 is too little. Enter 0.5 to 300 A."],
    ["10000", "10000 is too much. Enter 0.5 to 300 A."],
    ["NaN", "“NaN” is not a number. Enter 0.5 to 300 A."],
    ["1e9", "“1e9” is not a number. Enter 0.5 to 300 A."],
  ])("refuses %j with value, limit and remedy", (text, refusal) => {
    expect(parseNumber(text, amps)).toEqual({ ok: false, refusal });
  });

  it("wants whole batteries", () => {
    expect(parseNumber("1.5", limitOf("Battery.parallel"))).toMatchObject({ ok: false });
    expect(parseNumber("2", limitOf("Battery.parallel"))).toEqual({ ok: true, value: 2 });
  });

  it("knows the server's own limits", () => {
    expect(limitOf("Battery.capacity_ah")).toMatchObject({ most: 1500, unit: "Ah" });
  });
});

describe("typed times", () => {
  it.each([
    ["7:30", "07:30"],
    ["0730", "07:30"],
    ["07.30", "07:30"],
    ["7", "07:00"],
    ["24:00", "24:00"],
    ["7:30 pm", "19:30"],
    ["12 am", "00:00"],
    ["12:15p", "12:15"],
  ])("reads %s as %s", (text, value) => {
    expect(parseClock(text)).toEqual({ ok: true, value });
  });

  it.each(["", "25:00", "24:01", "7:75", "noon", "-1:00", "13 pm"])("refuses %j", (text) => {
    expect(parseClock(text)).toMatchObject({ ok: false });
  });

  it("goes to minutes and back", () => {
    for (const clock of ["00:00", "06:05", "23:59", "24:00"]) {
      expect(clockOf(minutesOf(clock))).toBe(clock);
    }
  });

  it("names days and crosses months", () => {
    expect(dayName("2026-06-12")).toBe("Fri 12");
    expect(dateAfter("2026-02-27", 2)).toBe("2026-03-01");
  });
});

describe("amounts", () => {
  const amount = { ah: -5.84, wh: -76.2 };

  it("come in the chosen unit, with a true minus", () => {
    expect(amountText(amount, "Ah")).toBe("−5.8");
    expect(amountText(amount, "Wh")).toBe("−76");
    expect(amountIn(amount, "Wh")).toBe(-76.2);
  });

  it("lose their decimal at ten amp-hours", () => {
    expect(amountText({ ah: 9.94, wh: 0 }, "Ah")).toBe("9.9");
    expect(amountText({ ah: 9.96, wh: 0 }, "Ah")).toBe("10");
  });

  it("never show minus nought, and a plus when asked", () => {
    expect(amountText({ ah: -0.01, wh: 0 }, "Ah", true)).toBe("0.0");
    expect(amountText({ ah: 3, wh: 0 }, "Ah", true)).toBe("+3.0");
  });

  it("add up", () => {
    expect(sumAmounts([amount, { ah: 6, wh: 80 }]).wh).toBeCloseTo(3.8);
    expect(sumAmounts([])).toEqual({ ah: 0, wh: 0 });
  });

  it("that were typed are shown whole", () => {
    expect([14.25, 54.12345, 90, 0.1 + 0.2].map(plainFigure)).toEqual([
      "14.25",
      "54.12345",
      "90",
      "0.3",
    ]);
  });

  it("are short", () => {
    expect([0.123, 4.567, 45.67, 456.7].map(shortFigure)).toEqual(["0.12", "4.57", "45.7", "457"]);
    expect([0.25, 3.14, 27.8].map(hoursText)).toEqual(["15 min", "3.1 h", "28 h"]);
  });
});

describe("a sentence that breaks over lines", () => {
  it("keeps figures beside their units, and nothing else", () => {
    expect(unbroken("between 44 and 88 %. On day 2 W of 3 winds")).toBe(
      "between 44 and 88\u00a0%. On day 2\u00a0W of 3 winds",
    );
    expect(unbroken("12 Ah a day, 3 hours")).toBe("12\u00a0Ah a day, 3 hours");
  });
});
