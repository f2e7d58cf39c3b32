import { describe, expect, it } from "vitest";
import type { BuildReport, CircuitReport, Plan } from "../../../api/client";
import { ALONE, addOutlet, freeOutlet, plugged, removeOutlet, TOOL, withOutlet } from "./outlets";

const fridge = { key: "fridge", text: "Fridge" };
const lamp = { key: "lamp", text: "Lamp" };
const radio = { key: "radio", text: "Radio" };

const circuit = (part: Partial<CircuitReport>): CircuitReport =>
  ({ role: "outlet", holds: [], spare_a: 0, own: false, ...part }) as CircuitReport;

const build = {
  circuits: [
    circuit({ key: "outlet-fridge", name: "Fridge", holds: [fridge] }),
    circuit({ key: "shared-1", name: "12 V outlet", holds: [lamp, radio] }),
  ],
} as BuildReport;

const empty = { build: { outlets: [], circuits: [] } } as unknown as Plan;
const held = (plan: Plan) =>
  Object.fromEntries(plan.build.outlets.map((one) => [one.outlet, one.appliances]));
const strong = build.circuits[0] as CircuitReport;

describe("an outlet", () => {
  it("of the tool's is taken over with what hangs on it when it is changed", () => {
    const next = withOutlet(empty, strong, { name: "Galley" });
    expect(next.build.outlets).toEqual([
      {
        outlet: "outlet-fridge",
        name: "Galley",
        usb: false,
        mains: false,
        appliances: ["fridge"],
        spare_a: 0,
      },
    ]);
    // A second change is made to the same one.
    expect(withOutlet(next, strong, { spare_a: 4 }).build.outlets).toHaveLength(1);
  });

  it("is added for what the plan does not list, under a name of its own", () => {
    const one = addOutlet(empty, freeOutlet(empty), false);
    const two = addOutlet(one, freeOutlet(one), true);
    expect(two.build.outlets.map((outlet) => [outlet.outlet, outlet.usb, outlet.spare_a])).toEqual([
      ["own-1", false, 5],
      ["own-2", true, 3],
    ]);
  });

  it("goes with its choices, but those of one that the tool makes again stay", () => {
    const choices = [{ circuit: "own-1" }, { circuit: "outlet-fridge" }];
    const plan = { build: { outlets: [], circuits: choices } } as unknown as Plan;
    const both = withOutlet(addOutlet(plan, "own-1", false), strong, {});
    const none = removeOutlet(removeOutlet(both, "own-1"), "outlet-fridge");
    expect(none.build).toEqual({ outlets: [], circuits: [{ circuit: "outlet-fridge" }] });
  });
});

describe("an appliance plugged in elsewhere", () => {
  it("joins what hangs on the other outlet", () => {
    expect(held(plugged(empty, build, lamp, "outlet-fridge"))).toEqual({
      "outlet-fridge": ["fridge", "lamp"],
    });
  });

  it("gets an outlet of its own, named after it", () => {
    const next = plugged(empty, build, radio, ALONE);
    expect(next.build.outlets[0]).toMatchObject({ name: "Radio", appliances: ["radio"] });
  });

  it("is on one outlet only, however often it is moved", () => {
    const once = plugged(empty, build, lamp, "outlet-fridge");
    const twice = plugged(once, build, lamp, ALONE);
    expect(held(twice)).toEqual({ "outlet-fridge": ["fridge"], "own-1": ["lamp"] });
    const back = plugged(twice, build, lamp, TOOL);
    expect(held(back)).toEqual({ "outlet-fridge": ["fridge"], "own-1": [] });
  });

  it("stays where it is when the other outlet is gone", () => {
    expect(plugged(empty, build, lamp, "outlet-gone")).toBe(empty);
  });
});
