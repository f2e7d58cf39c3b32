import { describe, expect, it } from "vitest";
import type { BodyReport, FittingReport, OwnedPart } from "../../../api/client";
import { moneyText, USUAL_HABITS } from "../../../quantities/habits";
import { withPart } from "../owned";
import { arrowStep, moved, movedItem, placesOf, turnedAbout } from "./placing";

const body = (key: string, x0: number, y0: number, z0 = 0): BodyReport =>
  ({ key, x0, x1: x0 + 50, y0, y1: y0 + 40, z0, z1: z0 + 30, turned: false }) as BodyReport;
const bodies = [body("a", 10, 20), body("b", 100, 20, 60)];

const fitting = (key: string, x_mm: number): FittingReport =>
  ({ key, face: "front", x_mm, y_mm: 50, hole_mm: 29 }) as FittingReport;

describe("moving a part", () => {
  it("pins every part where it stands and moves the one", () => {
    expect(moved(bodies, "a", { x: 5.4, y: -3 })).toEqual([
      { part: "a", x_mm: 15, y_mm: 17, z_mm: 0, turned: false },
      { part: "b", x_mm: 100, y_mm: 20, z_mm: 60, turned: false },
    ]);
  });

  it("never goes below nought", () => {
    expect(moved(bodies, "a", { x: -99, z: -5 })[0]).toMatchObject({ x_mm: 0, z_mm: 0 });
  });

  it("of a part that is not there changes nothing", () => {
    expect(moved(bodies, "c", { x: 5 })).toEqual(placesOf(bodies));
  });

  it("turns one part and no other", () => {
    expect(turnedAbout(bodies, "b").map((place) => place.turned)).toEqual([false, true]);
  });
});

describe("moving a fitting", () => {
  const items = [{ item: "a", face: "front" as const, x_mm: 1, y_mm: 1, hole_mm: 31 }];

  it("keeps the hole that was typed, and a tenth of a millimetre", () => {
    const next = movedItem([fitting("a", 30), fitting("b", 90)], items, "a", { x_mm: 33.333 });
    expect(next).toEqual([
      { item: "a", face: "front", x_mm: 33.3, y_mm: 50, hole_mm: 31 },
      { item: "b", face: "front", x_mm: 90, y_mm: 50, hole_mm: null },
    ]);
  });

  it("may change its face", () => {
    expect(movedItem([fitting("a", 30)], [], "a", { face: "left" })[0]?.face).toBe("left");
  });
});

it("steps by 5 mm with the arrows, finely by 1, and not with other keys", () => {
  expect(arrowStep("ArrowLeft", false)).toEqual({ across: -5, up: 0 });
  expect(arrowStep("ArrowUp", true)).toEqual({ across: 0, up: 1 });
  expect(arrowStep("Enter", false)).toBe(null);
});

describe("what is known of a part", () => {
  const known: OwnedPart[] = [{ part: "shunt", owned: true }];

  it("replaces what was known before", () => {
    expect(withPart(known, { part: "shunt", owned: false, euro: 60 })).toEqual([
      { part: "shunt", owned: false, euro: 60 },
    ]);
  });

  it("is forgotten when it says nothing", () => {
    expect(withPart(known, { part: "shunt", owned: false, euro: null })).toEqual([]);
  });

  it("is a price of nought if that is typed", () => {
    expect(withPart([], { part: "bars", owned: false, euro: 0 })).toHaveLength(1);
  });
});

it("writes a price as a range or as itself, small ones with cents", () => {
  expect(moneyText(USUAL_HABITS, 20, 40.4)).toBe("€ 20 to 40");
  expect(moneyText(USUAL_HABITS, 0.42, 0.84)).toBe("€ 0.42 to 0.84");
  expect(moneyText({ ...USUAL_HABITS, currency: "GBP" }, 99)).toBe("£ 99");
});
