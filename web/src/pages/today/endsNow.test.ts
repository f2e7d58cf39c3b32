import { describe, expect, it } from "vitest";
import type { Plan } from "../../api/client";
import { endsNow } from "./endsNow";

const block = (id: string, day: number, start: string, end: string) =>
  ({ id, kind: "drive", day, start, end, end_day: null, idling: false }) as const;

function plan(): Plan {
  const days = Array.from({ length: 5 }, () => ({ sky: "usual", place: "", kind: "site" }));
  const blocks = [
    block("before", 0, "09:00", "10:00"),
    block("this morning", 2, "07:00", "08:00"),
    block("this evening", 2, "17:00", "18:00"),
    block("tomorrow", 3, "09:00", "10:00"),
  ];
  return { trip: { days, blocks, begins: null, ends: null } } as unknown as Plan;
}

describe("a trip that is left early", () => {
  const left = endsNow(plan(), 2, "2026-06-08T10:30").trip;
  it("ends on its day at that hour", () => {
    expect(left.days).toHaveLength(3);
    expect(left.ends).toBe("10:30");
  });
  it("keeps what was, and nothing that would have begun later", () => {
    expect(left.blocks.map((one) => one.id)).toEqual(["before", "this morning"]);
  });
});
