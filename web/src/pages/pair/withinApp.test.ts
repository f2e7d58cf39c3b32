import { describe, expect, it } from "vitest";
import { withinApp } from "./withinApp";

describe("where a device goes on to", () => {
  it("is the page that it wanted", () => {
    expect(withinApp("/plan/3/today?view=a")).toBe("/plan/3/today?view=a");
  });
  it.each([
    null,
    "",
    "https://evil.example/",
    "//evil.example/",
    "/\\evil.example",
    "/pair?to=/pair",
  ])("is the first page for %s", (to) => expect(withinApp(to)).toBe("/"));
});
