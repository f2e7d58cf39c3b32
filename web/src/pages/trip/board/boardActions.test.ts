import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Block, DayReport, Plan } from "../../../api/client";
import type { Cursor } from "../../../plan/context";
import type { PlanStore } from "../../../plan/planStore";
import { boardActions, type Sheet } from "./boardActions";

const drive: Block = {
  id: "a",
  kind: "drive",
  day: 1,
  start: "09:30",
  end_day: null,
  end: "10:45",
  idling: false,
};

const plan = {
  trip: {
    days: [
      { sky: "clear", forecast: true, said_on: "2026-06-01", place: "Tarn" },
      { sky: "clear", forecast: false, said_on: null, place: "Beck" },
    ],
    blocks: [drive],
    floor_percent: 20,
  },
} as unknown as Plan;

/** A store that keeps what it is told. */
class FakeBench {
  draft = plan;
  tried: Plan[] = [];
  kept: string[] = [];
  snapshot = () => ({ draft: this.draft });
  preview = (draft: Plan) => {
    this.draft = draft;
    this.tried.push(draft);
  };
  commit = (draft: Plan, did: string) => {
    this.draft = draft;
    this.kept.push(did);
  };
}

let store: FakeBench;
let sheets: (Sheet | null)[];
let cursors: Cursor[];
const days = [{ minutes: 1440 }, { minutes: 1380 }] as DayReport[];

const actions = () =>
  boardActions(
    store as unknown as PlanStore,
    { current: { days, onCursor: (cursor) => cursors.push(cursor) } },
    { current: undefined },
    (sheet) => sheets.push(sheet),
  );

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal("window", { setTimeout, clearTimeout });
  store = new FakeBench();
  sheets = [];
  cursors = [];
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("a block on the board", () => {
  it("is tried while it is pulled and kept once when it is let go", () => {
    const act = actions();
    act.pull(drive, { from: 2100, to: 2175 });
    act.pull(drive, { from: 2160, to: 2235 });
    expect(store.kept).toEqual([]);
    act.release("moved a drive");
    expect(store.kept).toEqual(["moved a drive"]);
    expect(store.draft.trip.blocks[0]).toMatchObject({ start: "12:00", end: "13:15" });
  });

  it("moved by keys is kept as one step once the keys rest", () => {
    const act = actions();
    for (let n = 0; n < 5; n += 1) {
      act.keyPull(drive, { from: 2100 + 5 * n, to: 2175 + 5 * n });
      vi.advanceTimersByTime(300);
    }
    expect(store.tried).toHaveLength(5);
    expect(store.kept).toEqual([]);
    vi.advanceTimersByTime(500);
    expect(store.kept).toEqual(["moved a drive"]);
  });

  it("closes its sheet when it goes", () => {
    const act = actions();
    act.open(drive, 1, 120);
    act.remove(drive);
    expect(sheets).toEqual([{ id: "a", day: 1, x: 120 }, null]);
    expect(store.draft.trip.blocks).toEqual([]);
  });
});

describe("a day on the board", () => {
  it("whose sky is said by hand is no forecast any more", () => {
    actions().sky(0, "overcast");
    expect(store.draft.trip.days[0]).toMatchObject({
      sky: "overcast",
      forecast: false,
      said_on: null,
      place: "Tarn",
    });
    expect(store.draft.trip.days[1]).toBe(plan.trip.days[1]);
  });

  it("keeps the rest of it when a part is changed", () => {
    const act = actions();
    act.place(1, "Bothy");
    act.air(1, { low_c: 2, high_c: 9 });
    expect(store.draft.trip.days[1]).toMatchObject({ place: "Bothy", low_c: 2, high_c: 9 });
    expect(store.kept).toEqual(["named a place", "changed a day’s temperature"]);
  });

  it("points no further than its last five minutes, on a short day too", () => {
    const act = actions();
    act.hover(0, 0.5);
    act.hover(1, 2);
    act.hover(1, -1);
    act.hover(7, 0.5);
    expect(cursors).toEqual([
      { day: 0, minute: 720 },
      { day: 1, minute: 1375 },
      { day: 1, minute: 0 },
    ]);
  });
});

describe("the reserve", () => {
  it("is tried until it is let go", () => {
    const act = actions();
    act.floor(25, false);
    act.floor(30, false);
    act.floor(30, true);
    expect(store.tried.map((one) => one.trip.floor_percent)).toEqual([25, 30]);
    expect(store.kept).toEqual(["moved the reserve"]);
  });
});
