import { describe, expect, it } from "vitest";
import { plainPlan } from "../../app/plainPlan";
import { addPanel, addSun, withBox, withSun } from "./parts";

const plan = plainPlan(new Date("2026-06-06T10:00:00Z"));

describe("parts of the box", () => {
  it("begin with a battery and nothing that charges it", () => {
    expect(plan.box.sun).toEqual([]);
    expect(plan.trip.start).toBe("2026-06-06");
    expect(plan.trip.days).toHaveLength(3);
  });

  it("give each array and panel an id of its own", () => {
    const [once, first] = addSun(plan);
    const [twice, second] = addSun(once);
    expect([first, second]).toEqual(["sun:sun1", "sun:sun2"]);
    const sun = twice.box.sun[1];
    if (!sun) throw new Error("no second array");
    const more = addPanel(twice, sun);
    expect(more.box.sun.flatMap((s) => s.panels.map((p) => p.id))).toEqual([
      "panel1",
      "panel2",
      "panel3",
    ]);
  });

  it("face a new panel to the equator on either side of it", () => {
    const south = { ...plan, trip: { ...plan.trip, site: { ...plan.trip.site, latitude: -40 } } };
    expect(addSun(plan)[0].box.sun[0]?.panels[0]?.azimuth_deg).toBe(180);
    expect(addSun(south)[0].box.sun[0]?.panels[0]?.azimuth_deg).toBe(0);
  });

  it("change one part and keep the others", () => {
    const [with1] = addSun(plan);
    const sun = with1.box.sun[0];
    if (!sun) throw new Error("no array");
    const renamed = withSun(with1, { ...sun, name: "Roof" });
    expect(renamed.box.sun[0]?.name).toBe("Roof");
    expect(withBox(renamed, { dcdc: null }).box.sun).toBe(renamed.box.sun);
    expect(plan.box.sun).toEqual([]);
  });
});
