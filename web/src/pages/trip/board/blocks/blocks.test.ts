import { describe, expect, it } from "vitest";
import type { Block, Plan } from "../../../../api/client";
import { NO_SOURCES } from "../../../../testing/boxes";
import {
  addBlock,
  addDay,
  freshId,
  partOnDay,
  pulled,
  removeDay,
  spanOf,
  usefulKinds,
  withBlock,
  withoutBlock,
  withSpan,
} from "./blocks";

function block(part: Partial<Block> = {}): Block {
  return {
    id: "a",
    kind: "drive",
    day: 1,
    start: "09:30",
    end_day: null,
    end: "10:45",
    idling: false,
    ...part,
  };
}

function plan(days: number, blocks: Block[] = []): Plan {
  const trip = {
    site: { name: "Moor", latitude: 54, longitude: -2, altitude_m: 0, timezone: "UTC" },
    start: "2026-06-06",
    days: Array.from({ length: days }, (_, i) => ({ sky: "clear" as const, place: `p${i}` })),
    blocks,
    start_percent: 100,
    floor_percent: 20,
  };
  return { trip } as unknown as Plan;
}

describe("a block's span", () => {
  it("counts minutes from the first midnight", () => {
    expect(spanOf(block())).toEqual({ from: 2010, to: 2085 });
    expect(spanOf(block({ end_day: 2, end: "08:00" })).to).toBe(2 * 1440 + 480);
  });

  it("survives the way to and fro, over midnight too", () => {
    for (const original of [
      block(),
      block({ end_day: 2, end: "08:00" }),
      block({ end: "24:00" }),
    ]) {
      expect(withSpan(original, spanOf(original))).toEqual(original);
    }
  });

  it("writes an end at midnight as 24:00 of the day it closes", () => {
    expect(withSpan(block(), { from: 1440, to: 2880 })).toMatchObject({
      day: 1,
      start: "00:00",
      end_day: null,
      end: "24:00",
    });
  });

  it("is drawn in every day that it touches", () => {
    const span = spanOf(block({ start: "22:00", end_day: 2, end: "08:00" }));
    expect(partOnDay(span, 0)).toBeNull();
    expect(partOnDay(span, 1)).toEqual({ from: 1320, to: 1440 });
    expect(partOnDay(span, 2)).toEqual({ from: 0, to: 480 });
    expect(partOnDay(span, 3)).toBeNull();
  });
});

describe("pulling a block", () => {
  const span = { from: 600, to: 660 };

  it("moves in steps of five minutes and keeps its length", () => {
    expect(pulled(span, "body", 12, 2)).toEqual({ from: 610, to: 670 });
    expect(pulled(span, "body", -2, 2)).toEqual(span);
  });

  it("stretches one end and leaves the other", () => {
    expect(pulled(span, "start", -33, 2)).toEqual({ from: 565, to: 660 });
    expect(pulled(span, "end", 31, 2)).toEqual({ from: 600, to: 690 });
  });

  it("never turns inside out and never vanishes", () => {
    expect(pulled(span, "start", 500, 2)).toEqual({ from: 655, to: 660 });
    expect(pulled(span, "end", -500, 2)).toEqual({ from: 600, to: 605 });
  });

  it("stays inside the trip", () => {
    expect(pulled(span, "body", -5000, 2)).toEqual({ from: 0, to: 60 });
    expect(pulled(span, "body", 50_000, 2)).toEqual({ from: 2820, to: 2880 });
    expect(pulled(span, "end", 50_000, 2)).toEqual({ from: 600, to: 2880 });
  });

  it("may be put on another day", () => {
    expect(withSpan(block({ day: 0 }), pulled(span, "body", 1440, 2)).day).toBe(1);
  });
});

describe("adding and removing", () => {
  it("gives a new block an id of its own", () => {
    expect(freshId("d", ["d1", "d2", "d4"])).toBe("d3");
    const [next, added] = addBlock(plan(2, [block({ id: "d1" })]), "drive", 0, 615);
    expect(added).toMatchObject({ id: "d2", day: 0, start: "10:15", end: "11:15" });
    expect(next.trip.blocks).toHaveLength(2);
  });

  it("keeps a block that is added late on the last day inside the trip", () => {
    const [, added] = addBlock(plan(1), "hookup", 0, 1380);
    expect(spanOf(added)).toEqual({ from: 1380, to: 1440 });
  });

  it("changes or drops only the block it is told", () => {
    const two = plan(2, [block(), block({ id: "b" })]);
    expect(withBlock(two, block({ start: "09:00" })).trip.blocks[1]).toBe(two.trip.blocks[1]);
    expect(withoutBlock(two, "a").trip.blocks.map((b) => b.id)).toEqual(["b"]);
  });

  it("moves later blocks along when a day comes in between", () => {
    const next = addDay(plan(2, [block({ day: 0 }), block({ id: "b", day: 1 })]), 0);
    expect(next.trip.days.map((day) => day.place)).toEqual(["p0", "p0", "p1"]);
    expect(next.trip.blocks.map((b) => b.day)).toEqual([0, 2]);
  });

  it("takes a day's own blocks with it and cuts what reaches in", () => {
    const night = block({ id: "n", day: 0, start: "20:00", end_day: 1, end: "07:00" });
    const next = removeDay(plan(3, [night, block(), block({ id: "c", day: 2 })]), 1);
    expect(next.trip.days.map((day) => day.place)).toEqual(["p0", "p2"]);
    expect(next.trip.blocks).toEqual([
      { ...night, end_day: null, end: "24:00" },
      block({ id: "c", day: 1 }),
    ]);
  });

  it("shortens a block that spans a removed day by that day", () => {
    const long = block({ day: 0, start: "20:00", end_day: 2, end: "07:00" });
    const next = removeDay(plan(3, [long]), 1);
    expect(next.trip.blocks[0]).toMatchObject({ day: 0, end_day: 1, end: "07:00" });
  });

  it("never removes the only day", () => {
    const one = plan(1);
    expect(removeDay(one, 0)).toBe(one);
  });
});

describe("kinds of block", () => {
  const box = { ...NO_SOURCES, second: null };
  const of = (part: object) =>
    usefulKinds({
      box,
      trip: { kind: "travel" },
      use: { appliances: [] },
      ...part,
    } as unknown as Plan);

  it("are offered where the plan can make use of them", () => {
    expect(of({})).toEqual(["drive", "hookup", "panel_out"]);
    expect(of({ trip: { kind: "standby" } })).toContain("outage");
    expect(of({ box: { ...box, second: { always: false } } })).toContain("second_bank");
    expect(of({ box: { ...box, second: { always: true } } })).not.toContain("second_bank");
    expect(of({ use: { appliances: [{ noisy: true }] } })).toContain("quiet");
  });
});
