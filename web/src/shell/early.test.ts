// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import SCRIPT from "../../public/early.js?raw";
import { takeEarly } from "../api/early";
import { PlanStore } from "../plan/planStore";

const asked: string[] = [];

function visit(path: string) {
  window.history.replaceState(null, "", path);
  new Function(SCRIPT)();
}

beforeEach(() => {
  asked.length = 0;
  globalThis.oddkettleEarly = undefined;
  localStorage.clear();
  document.head.innerHTML =
    '<script type="application/json" id="page-scripts">{"trip":["assets/a.js"],"box":["assets/b.js"]}</script>';
  vi.stubGlobal("fetch", async (input: Request | string) => {
    asked.push(typeof input === "string" ? input : new URL(input.url).pathname);
    return new Response(JSON.stringify({ document: { name: "Moth" } }));
  });
});
afterEach(() => vi.unstubAllGlobals());

describe("what is asked before the scripts are there", () => {
  it("is the plan, its report, its track and its log", () => {
    visit("/plan/7/box");
    expect(asked.sort()).toEqual(["", "/log", "/report", "/track"].map((p) => `/api/plans/7${p}`));
  });

  it("names the scripts of the page that was asked for", () => {
    visit("/plan/7/box");
    visit("/plan/7");
    const links = [...document.querySelectorAll("link[rel=modulepreload]")];
    expect(links.map((link) => link.getAttribute("href"))).toEqual([
      "/assets/b.js",
      "/assets/a.js",
    ]);
  });

  it("is nothing on the home page, whichever plan was open last", () => {
    localStorage.setItem("oddkettle.plan", "3");
    visit("/");
    expect(asked).toEqual([]);
  });

  it("is handed out once, to whoever asks for the same", async () => {
    visit("/plan/7/trip");
    const request = () => new Request("http://127.0.0.1/api/plans/7/report");
    expect(await takeEarly(request())).toBeInstanceOf(Response);
    expect(takeEarly(request())).toBeNull();
    expect(takeEarly(new Request("http://127.0.0.1/api/plans/8"))).toBeNull();
    const save = new Request("http://127.0.0.1/api/plans/7", { method: "PUT", body: "{}" });
    expect(takeEarly(save)).toBeNull();
  });

  it("spares a plan that is opened any question of its own", async () => {
    visit("/plan/7/trip");
    const before = asked.length;
    await PlanStore.open(7);
    expect(asked.length).toBe(before);
    await PlanStore.open(7);
    expect(asked.length).toBe(before + 2);
  });
});
