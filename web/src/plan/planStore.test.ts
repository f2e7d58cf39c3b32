import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { OpenPlan, Plan, RunReport } from "../api/client";
import { PlanStore } from "./planStore";

type Call = {
  url: string;
  query: URLSearchParams;
  method: string;
  body: Record<string, unknown>;
};

/** A server of one plan that can be told to refuse, and counts what it is asked. */
class FakeServer {
  calls: Call[] = [];
  revision = 1;
  name = "Moth";
  refuse: { status: number; detail: string } | null = null;
  gate: Promise<void> | null = null;

  fetch = async (input: Request): Promise<Response> => {
    const text = await input.text();
    const call = {
      url: new URL(input.url).pathname,
      query: new URL(input.url).searchParams,
      method: input.method,
      body: text ? JSON.parse(text) : {},
    };
    this.calls.push(call);
    if (call.url === "/api/preview") {
      await this.gate;
      const rest = call.query.has("under_way") ? { rest: call.body.name } : null;
      return Response.json({ ran: call.body.name, ...(rest ? { rest } : {}) });
    }
    if (this.refuse) {
      return Response.json({ title: "No", ...this.refuse }, { status: this.refuse.status });
    }
    if (call.method === "PUT") {
      if (call.body.base_revision !== this.revision) {
        return Response.json({ title: "Stale", detail: "stale" }, { status: 409 });
      }
      this.revision += 1;
      this.name = (call.body.document as { name: string }).name;
    }
    return Response.json(this.stored());
  };

  stored(): OpenPlan {
    return {
      id: 1,
      data_file: "0123456789ab",
      trip_key: "aaaa",
      revision: this.revision,
      saved_at: "",
      did: "",
      can_undo: false,
      can_redo: false,
      box_behind: false,
      document: { name: this.name } as Plan,
    };
  }

  searches(url: string): URLSearchParams[] {
    return this.calls.filter((call) => call.url === url).map((call) => call.query);
  }

  count(url: string): number {
    return this.calls.filter((call) => call.url.startsWith(url)).length;
  }
}

let server: FakeServer;
let store: PlanStore;
const named = (name: string) => ({ name }) as Plan;
const settled = () => vi.waitFor(() => expect(store.snapshot().saving).toBe(false));

beforeEach(() => {
  server = new FakeServer();
  vi.stubGlobal("fetch", server.fetch);
  const plan = server.stored();
  store = new PlanStore({
    plan,
    draft: plan.document,
    run: {} as RunReport,
    rest: null,
    asPlanned: false,
    sky: "expected",
    trial: null,
    problem: null,
    saving: false,
    behind: false,
  });
});

afterEach(() => vi.unstubAllGlobals());

describe("the store", () => {
  it("previews without saving", async () => {
    store.preview(named("A"));
    await vi.waitFor(() => expect(store.snapshot().run).toEqual({ ran: "A" }));
    expect(server.count("/api/plans")).toBe(0);
  });

  it("has one preview under way and skips the drafts between", async () => {
    let open = () => {};
    server.gate = new Promise((resolve) => {
      open = resolve;
    });
    for (const name of ["A", "B", "C", "D"]) store.preview(named(name));
    await vi.waitFor(() => expect(server.count("/api/preview")).toBe(1));
    open();
    await vi.waitFor(() => expect(store.snapshot().run).toEqual({ ran: "D" }));
    expect(server.count("/api/preview")).toBe(2);
  });

  it("saves one after the other, each from the revision before", async () => {
    store.commit(named("A"), "a");
    store.commit(named("B"), "b");
    store.commit(named("C"), "c");
    await settled();
    const bases = server.calls.filter((c) => c.method === "PUT").map((c) => c.body.base_revision);
    expect(bases).toEqual([1, 2, 3]);
    expect(server.name).toBe("C");
    expect(store.snapshot().plan.revision).toBe(4);
  });

  it("puts the last good plan back when a change is refused, and says why", async () => {
    server.refuse = { status: 422, detail: "10000 is too much." };
    store.commit(named("Bad"), "bad");
    await settled();
    expect(store.snapshot().draft.name).toBe("Moth");
    expect(store.snapshot().problem?.detail).toBe("10000 is too much.");
  });

  it("keeps the change on screen when the server does not answer", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("refused")));
    store.commit(named("Kept"), "kept");
    await settled();
    expect(store.snapshot().draft.name).toBe("Kept");
    expect(store.snapshot().problem?.status).toBe(0);
  });

  it("tells of a stale save and can open the current plan", async () => {
    server.revision = 7;
    server.name = "Theirs";
    store.commit(named("Mine"), "mine");
    await settled();
    expect(store.snapshot().problem?.status).toBe(409);
    store.reload();
    await vi.waitFor(() => expect(store.snapshot().draft.name).toBe("Theirs"));
    expect(server.name).toBe("Theirs");
  });

  it("shows a trial everywhere without keeping it, and puts back what was before", async () => {
    store.try(named("Bigger"), "a bigger battery");
    await vi.waitFor(() => expect(store.snapshot().run).toMatchObject({ ran: "Bigger" }));
    expect(store.snapshot().trial).toBe("a bigger battery");
    expect(server.count("/api/plans")).toBe(0);
    store.dropTrial();
    expect(store.snapshot()).toMatchObject({ trial: null, draft: { name: "Moth" } });
    await vi.waitFor(() => expect(store.snapshot().run).toMatchObject({ ran: "Moth" }));
  });

  it("keeps a trial as one step that undo takes back", async () => {
    store.try(named("Bigger"), "a bigger battery");
    store.keepTrial();
    await settled();
    expect(store.snapshot()).toMatchObject({ trial: null, plan: { document: { name: "Bigger" } } });
    const saves = server.calls.filter((call) => call.method === "PUT");
    expect(saves.map((call) => call.body.did)).toEqual(["tried and kept: a bigger battery"]);
  });

  it("ends a trial when something else is changed", async () => {
    store.try(named("Bigger"), "a bigger battery");
    store.commit(named("Other"), "renamed");
    await settled();
    expect(store.snapshot().trial).toBeNull();
  });

  it("asks quickly first and for all the scenarios after", async () => {
    store.commit(named("Quick"), "renamed");
    await settled();
    await vi.waitFor(() => expect(server.searches("/api/preview").length).toBe(2));
    const [quick, full] = server.searches("/api/preview");
    expect(quick?.get("odds")).toBe("quick");
    expect(quick?.get("advice")).toBe("false");
    expect(full?.get("odds")).toBe("full");
    expect(full?.get("advice")).toBe("true");
  });

  it("says that its figures are behind until all the scenarios of the newest draft are in", async () => {
    store.preview(named("dragged"));
    expect(store.snapshot().behind).toBe(true);
    await vi.waitFor(() => expect(store.snapshot().run).toEqual({ ran: "dragged" }));
    expect(store.snapshot().behind).toBe(true);
    store.commit(named("dropped"), "moved");
    await vi.waitFor(() => expect(store.snapshot().behind).toBe(false));
    expect(store.snapshot().run).toEqual({ ran: "dropped" });
    expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("full");
  });

  it("is behind no longer when the draft is refused", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("refused")));
    store.preview(named("lost"));
    await vi.waitFor(() => expect(store.snapshot().problem?.status).toBe(0));
    expect(store.snapshot().behind).toBe(false);
  });

  it("asks for the sky that is looked at", async () => {
    store.setScenario("worst");
    await vi.waitFor(() => expect(server.searches("/api/preview").length).toBe(2));
    expect(server.searches("/api/preview").every((query) => query.get("sky") === "worst")).toBe(
      true,
    );
  });
});

describe("a trip that is under way", () => {
  it("has its rest run with the plan, and no other odds while something is dragged", async () => {
    store.setUnderway(true);
    store.preview(named("dragged"));
    await vi.waitFor(() => expect(store.snapshot().rest).toEqual({ rest: "dragged" }));
    expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("none");
    expect(server.searches("/api/preview").at(-1)?.get("under_way")).toBe("1");
    store.commit(named("let go"), "moved");
    await settled();
    await vi.waitFor(() => expect(store.snapshot().rest).toEqual({ rest: "let go" }));
    await vi.waitFor(() =>
      expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("full"),
    );
  });

  it("draws the plan’s own odds too where the plan is looked at", async () => {
    store.setUnderway(true);
    store.showPlan(true);
    store.preview(named("dragged"));
    await vi.waitFor(() => expect(store.snapshot().rest).toEqual({ rest: "dragged" }));
    expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("quick");
  });

  it("gives up a rest that was run from an older standpoint", async () => {
    store.setUnderway(true);
    store.preview(named("dragged"));
    await vi.waitFor(() => expect(store.snapshot().rest).not.toBeNull());
    store.setUnderway(true);
    expect(store.snapshot().rest).toBeNull();
  });

  it("runs a trial again from a new standpoint", async () => {
    store.setUnderway(true);
    store.try(named("a trial"), "a bigger panel");
    await vi.waitFor(() => expect(store.snapshot().rest).toEqual({ rest: "a trial" }));
    const before = server.count("/api/preview");
    store.setUnderway(true);
    await vi.waitFor(() => expect(server.count("/api/preview")).toBeGreaterThan(before));
    expect(store.snapshot().rest).toEqual({ rest: "a trial" });
  });

  it("asks for no rest before it has begun", async () => {
    store.setUnderway(false);
    store.preview(named("dragged"));
    await vi.waitFor(() => expect(server.count("/api/preview")).toBe(1));
    expect(server.searches("/api/preview")[0]?.has("under_way")).toBe(false);
  });
});
