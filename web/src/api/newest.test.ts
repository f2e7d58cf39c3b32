import { describe, expect, it, vi } from "vitest";
import { Newest } from "./newest";

/** Answers that come when they are let. */
function slowly() {
  const begun: number[] = [];
  const doors: (() => void)[] = [];
  const newest = new Newest<number>((wish) => {
    begun.push(wish);
    return new Promise((resolve) => {
      doors.push(resolve);
    });
  });
  return { newest, begun, answer: () => doors.shift()?.() };
}

describe("the newest question", () => {
  it("is asked at once when nothing is under way", () => {
    const { newest, begun } = slowly();
    newest.ask(1);
    expect(begun).toEqual([1]);
    expect(newest.outdated).toBe(false);
  });

  it("waits for the one under way, and those between are skipped", async () => {
    const { newest, begun, answer } = slowly();
    for (const wish of [1, 2, 3, 4]) newest.ask(wish);
    expect(newest.outdated).toBe(true);
    answer();
    await vi.waitFor(() => expect(begun).toEqual([1, 4]));
    answer();
    newest.ask(5);
    await vi.waitFor(() => expect(begun).toEqual([1, 4, 5]));
  });
});
