import { describe, expect, it } from "vitest";
import type { JudgementReport, Plan, Severity } from "../api/client";
import { gravest, pageOf, withRemedy } from "./judgements";

const plan = {
  box: { battery: { absorption_v: 15 }, sun: [{ controller: { limit_a: 8 } }], heater: null },
} as unknown as Plan;

describe("a remedy", () => {
  it("sets what its edits name and leaves the old document alone", () => {
    const next = withRemedy(plan, {
      text: "",
      edits: [
        { path: ["box", "battery", "absorption_v"], value: 14.2 },
        { path: ["box", "sun", 0, "controller", "limit_a"], value: 12 },
        { path: ["box", "heater"], value: { power_w: 20 } },
      ],
    });
    expect(next.box.battery.absorption_v).toBe(14.2);
    expect(next.box.sun[0]?.controller.limit_a).toBe(12);
    expect(next.box.heater?.power_w).toBe(20);
    expect(plan.box.battery.absorption_v).toBe(15);
    expect(plan.box.heater).toBeNull();
  });
});

describe("judgements", () => {
  const of = (...severities: Severity[]) =>
    severities.map((severity) => ({ severity }) as JudgementReport);

  it("are as grave as their gravest", () => {
    expect(gravest(of("note", "waste", "fault"))).toBe("fault");
    expect(gravest(of("note", "danger"))).toBe("danger");
    expect(gravest([])).toBeNull();
  });

  it.each([
    ["use", "use"],
    ["battery", "box?part=battery"],
    ["sun:roof", "box?part=sun:roof"],
    ["appliance:laptop", "use?open=laptop"],
  ])("about %s lead to %s", (part, page) => {
    expect(pageOf(part)).toBe(page);
  });
});
