import { describe, expect, it } from "vitest";
import type { CircuitReport, Plan } from "../../../api/client";
import { chosenBy, withBuild, withChoice, withoutChoice } from "./circuits";

const circuit = (part: Partial<CircuitReport>): CircuitReport =>
  ({
    key: "inverter",
    role: "inverter",
    part: "inverter",
    fixed: [],
    stated: [],
    ...part,
  }) as CircuitReport;

const plan = {
  box: {
    sun: [
      { id: "roof", cable_m: 5, cable_mm2: 4 },
      { id: "fold", cable_m: null, cable_mm2: 4 },
    ],
    vehicle: [{ id: "dcdc", feed: { length_m: 4, area_mm2: 10 } }],
  },
  build: { circuits: [{ circuit: "other", fuse_a: 5 }], shunt: true },
} as unknown as Plan;

describe("a choice about a circuit", () => {
  it("is added once and changed in place", () => {
    const once = withChoice(plan, circuit({}), { fuse_a: 40 });
    const twice = withChoice(once, circuit({}), { run_m: 2 });
    expect(twice.build.circuits).toEqual([
      { circuit: "other", fuse_a: 5 },
      { circuit: "inverter", fuse_a: 40, run_m: 2 },
    ]);
  });

  it("goes when nothing of it is left", () => {
    const once = withChoice(plan, circuit({}), { fuse_a: 40 });
    expect(withChoice(once, circuit({}), { fuse_a: null }).build.circuits).toEqual(
      plan.build.circuits,
    );
  });

  it("of something that is off counts as a choice", () => {
    const next = withChoice(plan, circuit({}), { disconnect: false });
    expect(next.build.circuits).toHaveLength(2);
  });

  it("about a feed's cable is made in the box, for the run sees it there", () => {
    const feed = circuit({ key: "feed-dcdc", role: "feed", part: "vehicle:dcdc" });
    const next = withChoice(plan, feed, { cable_mm2: 16 });
    expect(next.box.vehicle[0]?.feed).toEqual({ length_m: 4, area_mm2: 16 });
    expect(next.build).toBe(plan.build);
  });

  it("about a panel's lead is made in the box only where the box states it", () => {
    const stated = circuit({
      key: "panel-roof",
      role: "panel",
      part: "sun:roof",
      stated: ["run_m", "cable_mm2"],
    });
    const guessed = circuit({ key: "panel-fold", role: "panel", part: "sun:fold" });
    expect(withChoice(plan, stated, { run_m: 7 }).box.sun[0]?.cable_m).toBe(7);
    const next = withChoice(plan, guessed, { run_m: 7 });
    expect(next.box.sun[1]?.cable_m).toBe(null);
    expect(next.build.circuits.at(-1)).toEqual({ circuit: "panel-fold", run_m: 7 });
  });

  it("about a feed's fuse stays with the building", () => {
    const feed = circuit({ key: "feed-dcdc", role: "feed", part: "vehicle:dcdc" });
    const next = withChoice(plan, feed, { fuse_a: 60 });
    expect(next.box).toBe(plan.box);
    expect(next.build.circuits.at(-1)).toEqual({ circuit: "feed-dcdc", fuse_a: 60 });
  });
});

it("tells who chose a value", () => {
  const one = circuit({ fixed: ["fuse_a"], stated: ["run_m"] });
  expect(["fuse_a", "run_m", "cable_mm2"].map((n) => chosenBy(one, n as "fuse_a"))).toEqual([
    "you",
    "box",
    "tool",
  ]);
});

it("leaves one circuit to the tool and the others alone", () => {
  expect(withoutChoice(plan, "other").build.circuits).toEqual([]);
  expect(withoutChoice(plan, "none").build.circuits).toEqual(plan.build.circuits);
});

it("changes a part of the building and nothing else", () => {
  const next = withBuild(plan, { shunt: false });
  expect(next.build.shunt).toBe(false);
  expect(next.build.circuits).toBe(plan.build.circuits);
  expect(next.box).toBe(plan.box);
});
