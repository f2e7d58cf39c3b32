import { describe, expect, it } from "vitest";
import type { Weighed } from "../../api/client";
import { answerOf, bestOf, isNever, joined, type Mend, sorted } from "./fixes";

/** As the engine names what a change touches. */
function slotOf(key: string): string | null {
  const [kind = "", part] = key.split(":");
  if (["half", "without", "warmer"].includes(kind)) return `appliance:${part}`;
  return kind === "drive" ? kind : null;
}

function change(key: string, lasts: number, euro: number | null = null): Weighed {
  return {
    change: {
      key,
      text: key,
      saves: key.startsWith("without"),
      slot: slotOf(key),
      euro: euro === null ? null : { low: euro, high: euro },
      edits: [],
    },
    lasts_percent: lasts,
    points: lasts - 40,
    low_points: 0,
    less_dark_h: 0,
    less_under_h: 0,
  } as unknown as Weighed;
}

function mend(steps: string[], lasts: number, bought = false, paid = bought): Mend {
  return { steps, bother: 1, lasts_percent: lasts, bought, paid, edits: [] } as unknown as Mend;
}

describe("what fixes it", () => {
  it("is sorted by whether it is enough, what is free before what is bought", () => {
    const found = sorted(
      [
        change("battery", 99, 300),
        change("without:lamp", 96, 20),
        change("drive:60", 95),
        change("half:lamp", 70),
        change("panel", 80, 100),
        change("shade", 40),
      ],
      90,
    );
    const keys = (of: Weighed[]) => of.map((one) => one.change.key);
    expect(keys(found.enough)).toEqual(["drive:60", "battery", "without:lamp"]);
    expect(keys(found.helps)).toEqual(["panel", "half:lamp"]);
    expect(keys(found.others)).toEqual(["shade"]);
  });

  it("never touches what is never to change", () => {
    expect(isNever(change("drive:60", 90), ["drive"])).toBe(true);
    expect(isNever(change("half:lamp", 90), ["appliance:lamp"])).toBe(true);
    expect(isNever(change("without:lamp", 90), ["appliance:fan"])).toBe(false);
    // A battery of more amp-hours is no use of the lamp.
    expect(isNever(change("battery:120", 90), ["appliance:lamp"])).toBe(false);
  });

  it("takes what is free first, and says both numbers", () => {
    const bought = sorted([change("battery", 99, 300)], 90);
    expect(bestOf(bought, [mend(["Drive 20 min", "Laptop half as long"], 92)])?.text).toBe(
      "Drive 20 min and laptop half as long",
    );
    expect(bestOf(bought, [])?.text).toBe("battery");
    const free = sorted([change("drive:60", 93)], 90);
    expect(bestOf(free, [mend(["A panel"], 95, true)])?.text).toBe("drive:60");
    expect(answerOf(40, bestOf(free, []), free, false)).toBe(
      "drive:60: 40 of 100 becomes 93. It is free.",
    );
  });

  it("never calls a night on mains free", () => {
    const night = mend(["A night on mains, from Thu 11"], 95, false, true);
    const none = sorted([], 90);
    expect(answerOf(40, bestOf(none, [night]), none, false)).not.toMatch(/free/);
    const free = sorted([change("drive:60", 93)], 90);
    expect(bestOf(free, [night])?.text).toBe("drive:60");
  });

  it("does not name a bought part while a free one may still be found", () => {
    const bought = sorted([change("battery", 99, 300)], 90);
    expect(answerOf(40, bestOf(bought, []), bought, true)).not.toMatch(/battery/);
    expect(answerOf(40, bestOf(bought, []), bought, false)).toMatch(
      /^battery: 40 of 100 becomes 99/,
    );
  });

  it("says of what helps that it is not enough", () => {
    const helps = sorted([change("panel", 80, 100)], 90);
    expect(answerOf(40, null, helps, false)).toMatch(/80\. It is not enough\.$/);
    expect(answerOf(40, null, sorted([], 90), false)).toMatch(/No single change/);
  });

  it("joins steps as a sentence does", () => {
    expect(joined(["One"])).toBe("One");
    expect(joined(["One", "Two", "Three"])).toBe("One, Two and three");
  });
});
