// @vitest-environment jsdom
import { afterEach, describe, expect, it } from "vitest";
import { USUAL_HABITS } from "./habits";
import { readerOf, tellServer } from "./reader";

afterEach(() => {
  // biome-ignore lint/suspicious/noDocumentCookie: what is tested writes it so.
  document.cookie = "oddkettle-habits=; max-age=0; path=/";
});

describe("what the server is told of its reader", () => {
  it("names every habit in one order, in letters that a cookie may hold", () => {
    const reader = readerOf({ ...USUAL_HABITS, clock: "12" }, "Wh");
    expect(reader).toBe("cable:mm2.clock:12.currency:EUR.temperature:C.unit:Wh.weight:kg");
    expect(encodeURI(reader)).toBe(reader);
  });

  it("is told once, and again only when it changes", () => {
    const first = readerOf(USUAL_HABITS, "Ah");
    expect(tellServer(first)).toBe(true);
    expect(tellServer(first)).toBe(false);
    expect(tellServer(readerOf(USUAL_HABITS, "Wh"))).toBe(true);
    expect(document.cookie).toContain("unit:Wh");
  });
});
