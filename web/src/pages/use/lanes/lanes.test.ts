import { describe, expect, it } from "vitest";
import type { Appliance, Plan, ShelfItem } from "../../../api/client";
import {
  addFromShelf,
  axisMin,
  duplicateAppliance,
  hoursFor,
  hoursOf,
  moveAppliance,
  pieces,
  pulled,
  stretchOf,
  withAppliance,
  withHoursFor,
  withoutAppliance,
} from "./lanes";

function appliance(id: string): Appliance {
  return {
    id,
    name: id,
    power_w: 5,
    supply: "12v",
    hours: [{ start: "20:00", end: "22:00" }],
    duty_percent: 100,
    figure: "guess",
    draw: "power",
    standby_w: 0,
    surge_w: 0,
    priority: "wanted",
    on_vehicle: false,
    noisy: false,
    adapter: false,
    medical: false,
    backup: false,
    takes_24v: false,
    on: true,
    spread_percent: 25,
  };
}

function plan(...ids: string[]): Plan {
  return { use: { appliances: ids.map(appliance) } } as unknown as Plan;
}

const ids = (of: Plan) => of.use.appliances.map((a) => a.id);

describe("hours on the noon axis", () => {
  it("puts midnight in the middle", () => {
    expect(axisMin(0)).toBe(720);
    expect(axisMin(720)).toBe(0);
    expect(axisMin(719)).toBe(1439);
  });

  it("keeps a night in one piece and splits what passes noon", () => {
    expect(pieces(stretchOf({ start: "21:15", end: "03:45" }))).toEqual([{ from: 555, to: 945 }]);
    expect(pieces(stretchOf({ start: "10:00", end: "14:00" }))).toEqual([
      { from: 1320, to: 1440 },
      { from: 0, to: 120 },
    ]);
  });

  it("survives the way to and fro", () => {
    for (const hours of [
      { start: "21:15", end: "03:45" },
      { start: "10:00", end: "14:00" },
      { start: "00:00", end: "24:00" },
      { start: "20:00", end: "24:00" },
      { start: "06:40", end: "06:51" },
    ]) {
      expect(hoursOf(stretchOf(hours))).toEqual(hours);
    }
  });

  it("reads equal ends as all day", () => {
    expect(stretchOf({ start: "07:00", end: "07:00" }).length).toBe(1440);
  });
});

describe("pulling hours", () => {
  const evening = stretchOf({ start: "20:00", end: "22:00" });

  it("moves the body around the clock", () => {
    expect(hoursOf(pulled(evening, "body", 61))).toEqual({ start: "21:00", end: "23:00" });
    expect(hoursOf(pulled(evening, "body", 15 * 60))).toEqual({ start: "11:00", end: "13:00" });
  });

  it("stretches either end", () => {
    expect(hoursOf(pulled(evening, "end", 180))).toEqual({ start: "20:00", end: "01:00" });
    expect(hoursOf(pulled(evening, "start", -60))).toEqual({ start: "19:00", end: "22:00" });
  });

  it("stops at five minutes and at a day", () => {
    expect(pulled(evening, "end", -900).length).toBe(5);
    expect(pulled(evening, "start", 900).length).toBe(5);
    expect(pulled(evening, "end", 5000).length).toBe(1440);
  });
});

describe("the list of appliances", () => {
  it("puts one in another's place", () => {
    const three = plan("a", "b", "c");
    expect(ids(moveAppliance(three, "a", 2))).toEqual(["b", "c", "a"]);
    expect(moveAppliance(three, "a", -1)).toBe(three);
    expect(moveAppliance(three, "c", 3)).toBe(three);
  });

  it("changes and removes only the one it is told", () => {
    const two = plan("a", "b");
    const changed = withAppliance(two, { ...appliance("b"), power_w: 9 });
    expect(changed.use.appliances.map((a) => a.power_w)).toEqual([5, 9]);
    expect(ids(withoutAppliance(two, "a"))).toEqual(["b"]);
  });

  it("gives each thing from the shelf an id of its own", () => {
    const item = { label: "LED strip", appliance: appliance("new") } as unknown as ShelfItem;
    const [once, first] = addFromShelf(plan("a"), item);
    const [twice, second] = addFromShelf(once, item);
    expect([first, second]).toEqual(["led-strip", "led-strip-2"]);
    expect(ids(twice)).toEqual(["a", "led-strip", "led-strip-2"]);
  });
});

describe("days of other kinds", () => {
  const own = [{ start: "08:00", end: "09:00" }];

  it("borrow the hours on site until they have their own", () => {
    const lamp = appliance("lamp");
    expect(hoursFor(lamp, "rest")).toBe(lamp.hours);
    const changed = withHoursFor(lamp, "rest", own);
    expect(hoursFor(changed, "rest")).toBe(own);
    expect(hoursFor(changed, "drive")).toBe(lamp.hours);
    expect(hoursFor(withHoursFor(changed, "rest", []), "rest")).toEqual([]);
    expect(hoursFor(withHoursFor(changed, "rest", null), "rest")).toBe(lamp.hours);
  });

  it("never leave the site without hours", () => {
    const lamp = appliance("lamp");
    expect(withHoursFor(lamp, "site", null)).toBe(lamp);
    expect(withHoursFor(lamp, "site", own).hours).toBe(own);
  });
});

describe("another of the same", () => {
  it("stands right after it under an id of its own", () => {
    const twice = duplicateAppliance(duplicateAppliance(plan("a", "b"), "a"), "a");
    expect(ids(twice)).toEqual(["a", "a-3", "a-2", "b"]);
    expect(ids(duplicateAppliance(plan("a"), "nobody"))).toEqual(["a"]);
  });

  it("is not made when the plan is full", () => {
    const full = plan(...Array.from({ length: 60 }, (_, i) => `t${i}`));
    expect(duplicateAppliance(full, "t1")).toBe(full);
  });
});
