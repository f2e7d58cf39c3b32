import { describe, expect, it } from "vitest";
import type { Fresh, Plan } from "../../api/client";
import { NO_SOURCES } from "../../testing/boxes";
import {
  addPanel,
  addPart,
  canAdd,
  duplicatePanel,
  duplicateSource,
  exists,
  isOn,
  moveSource,
  sourcesInOrder,
  switchPart,
  withoutSource,
  withSource,
} from "./parts";

const panel = { id: "new", name: "Panel", power_w: 100, azimuth_deg: 180 };
const fresh = {
  panel,
  sources: [
    {
      group: "sun",
      text: "sun",
      part: { id: "new", name: "Solar panel", panels: [panel], on: true },
    },
    { group: "vehicle", text: "dcdc", part: { id: "new", name: "DC-DC charger", on: true } },
    { group: "vehicle", text: "relay", part: { id: "new", name: "Relay", kind: "relay" } },
    { group: "mains", text: "mains", part: { id: "new", name: "Mains charger", on: true } },
    { group: "mains", text: "trickle", part: { id: "new", name: "Trickle charger", on: true } },
    { group: "generator", text: "generator", part: { id: "new", name: "Generator", on: true } },
  ],
  inverter: { rating_w: 300 },
  heater: { power_w: 20 },
  second: { always: false },
  unit: { capacity_wh: 1000 },
} as unknown as Fresh;

const plan = {
  trip: { site: { latitude: 50 } },
  box: {
    battery: { chemistry: "lifepo4", capacity_ah: 100, datasheet: { cycles: 3000 } },
    ...NO_SOURCES,
    order: [],
    joining: { kind: "independent", members: [] },
  },
} as unknown as Plan;

function added(...parts: string[]): Plan {
  return parts.reduce((so, what) => addPart(so, what, fresh)[0], plan);
}

describe("parts of the box", () => {
  it("get an id that no other source has, of whatever kind", () => {
    const [once, first] = addPart(plan, "sun", fresh);
    const [twice, second] = addPart(once, "sun", fresh);
    expect([first, second]).toEqual(["sun:sun1", "sun:sun2"]);
    expect(addPart(twice, "relay", fresh)[1]).toBe("vehicle:vehicle1");
    const sun = twice.box.sun[1];
    if (!sun) throw new Error("no second array");
    const ids = addPanel(twice, sun, fresh).box.sun.flatMap((s) => s.panels.map((p) => p.id));
    expect(ids).toEqual(["panel1", "panel2", "panel3"]);
  });

  it("face a new panel to the equator on either side of it", () => {
    const south = { ...plan, trip: { site: { latitude: -40 } } } as unknown as Plan;
    expect(addPart(plan, "sun", fresh)[0].box.sun[0]?.panels[0]?.azimuth_deg).toBe(180);
    expect(addPart(south, "sun", fresh)[0].box.sun[0]?.panels[0]?.azimuth_deg).toBe(0);
  });

  it("add a second bank of the first one's kind, without its data sheet", () => {
    const { second } = added("second").box;
    expect(second?.battery).toMatchObject({ chemistry: "lifepo4", datasheet: null });
  });

  it("are let in by the user's order, then as listed", () => {
    const three = added("sun", "dcdc", "mains");
    const ids = (so: Plan) => sourcesInOrder(so.box).map((source) => source.id);
    expect(ids(three)).toEqual(["sun1", "vehicle1", "mains1"]);
    const moved = moveSource(three, "mains1", -1);
    expect(ids(moved)).toEqual(["sun1", "mains1", "vehicle1"]);
    expect(moveSource(three, "sun1", -1)).toBe(three);
    expect(ids(withoutSource(moved, "sun1"))).toEqual(["mains1", "vehicle1"]);
  });

  it("are of any kind that the registry knows", () => {
    const one = added("generator");
    expect(sourcesInOrder(one.box)).toEqual([
      { id: "generator1", name: "Generator", key: "generator:generator1" },
    ]);
    expect(duplicateSource(one, "generator1")?.[1]).toBe("generator:generator2");
    expect(canAdd(added("generator", "generator").box, "generator", fresh)).toBe(false);
    expect(withoutSource(one, "generator1").box.generator).toEqual([]);
    expect(isOn(switchPart(one, "generator:generator1").box, "generator:generator1")).toBe(false);
  });

  it("take a removed source out of the combined charger too", () => {
    const two = added("sun", "dcdc");
    const joined = {
      ...two,
      box: { ...two.box, joining: { ...two.box.joining, members: ["sun1", "vehicle1"] } },
    };
    expect(withoutSource(joined, "sun1").box.joining.members).toEqual(["vehicle1"]);
  });

  it("know what is there and what can still be added", () => {
    const full = added("mains", "mains", "mains", "inverter");
    expect(canAdd(full.box, "trickle", fresh)).toBe(false);
    expect(canAdd(full.box, "inverter", fresh)).toBe(false);
    expect(canAdd(full.box, "relay", fresh)).toBe(true);
    expect(exists(full.box, "mains:mains2")).toBe(true);
    expect(exists(full.box, "vehicle:vehicle1")).toBe(false);
    expect(exists(full.box, "battery")).toBe(true);
  });

  it("are switched off and on without leaving the plan", () => {
    const two = added("sun", "dcdc");
    const off = switchPart(two, "vehicle:vehicle1");
    expect(isOn(off.box, "vehicle:vehicle1")).toBe(false);
    expect(isOn(off.box, "sun:sun1")).toBe(true);
    expect(sourcesInOrder(off.box)).toHaveLength(2);
    expect(isOn(switchPart(off, "vehicle:vehicle1").box, "vehicle:vehicle1")).toBe(true);
    expect(switchPart(two, "battery")).toBe(two);
  });

  it("are doubled under ids of their own, while there is room", () => {
    const one = added("sun");
    const made = duplicateSource(one, "sun1");
    expect(made?.[1]).toBe("sun:sun2");
    const panels = made?.[0].box.sun.flatMap((sun) => sun.panels.map((other) => other.id));
    expect(new Set(panels).size).toBe(2);
    expect(made?.[0].box.sun[1]?.name).toBe("Solar panel, another");
    expect(duplicateSource(added("mains", "mains", "mains"), "mains1")).toBeNull();
    expect(duplicateSource(one, "nobody")).toBeNull();
  });

  it("double a panel within its array", () => {
    const one = added("sun");
    const sun = one.box.sun[0];
    const panel = sun?.panels[0];
    if (!sun || !panel) throw new Error("no panel");
    const ids = duplicatePanel(one, sun, panel).box.sun[0]?.panels.map((other) => other.id);
    expect(ids).toEqual(["panel1", "panel2"]);
  });

  it("change one part and keep the others", () => {
    const [with1] = addPart(plan, "sun", fresh);
    const sun = with1.box.sun[0];
    if (!sun) throw new Error("no array");
    const renamed = withSource(with1, "sun", { ...sun, name: "Roof" });
    expect(renamed.box.sun[0]?.name).toBe("Roof");
    expect(renamed.box.battery).toBe(plan.box.battery);
    expect(plan.box.sun).toEqual([]);
  });
});
