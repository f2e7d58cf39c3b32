import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { OpenPlan, Plan, RunReport } from "../api/client";
import { Bench } from "./bench";

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
      revision: this.revision,
      saved_at: "",
      did: "",
      can_undo: false,
      can_redo: false,
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
let bench: Bench;
const named = (name: string) => ({ name }) as Plan;
const settled = () => vi.waitFor(() => expect(bench.snapshot().saving).toBe(false));

beforeEach(() => {
  server = new FakeServer();
  vi.stubGlobal("fetch", server.fetch);
  const plan = server.stored();
  bench = new Bench({
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

describe("the bench", () => {
  it("previews without saving", async () => {
    bench.preview(named("A"));
    await vi.waitFor(() => expect(bench.snapshot().run).toEqual({ ran: "A" }));
    expect(server.count("/api/plans")).toBe(0);
  });

  it("has one preview under way and skips the drafts between", async () => {
    let open = () => {};
    server.gate = new Promise((resolve) => {
      open = resolve;
    });
    for (const name of ["A", "B", "C", "D"]) bench.preview(named(name));
    await vi.waitFor(() => expect(server.count("/api/preview")).toBe(1));
    open();
    await vi.waitFor(() => expect(bench.snapshot().run).toEqual({ ran: "D" }));
    expect(server.count("/api/preview")).toBe(2);
  });

  it("saves one after the other, each from the revision before", async () => {
    bench.commit(named("A"), "a");
    bench.commit(named("B"), "b");
    bench.commit(named("C"), "c");
    await settled();
    const bases = server.calls.filter((c) => c.method === "PUT").map((c) => c.body.base_revision);
    expect(bases).toEqual([1, 2, 3]);
    expect(server.name).toBe("C");
    expect(bench.snapshot().plan.revision).toBe(4);
  });

  it("puts the last good plan back when a change is refused, and says why", async () => {
    server.refuse = { status: 422, detail: "10000 is too much." };
    bench.commit(named("Bad"), "bad");
    await settled();
    expect(bench.snapshot().draft.name).toBe("Moth");
    expect(bench.snapshot().problem?.detail).toBe("10000 is too much.");
  });

  it("keeps the change on screen when the server does not answer", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("refused")));
    bench.commit(named("Kept"), "kept");
    await settled();
    expect(bench.snapshot().draft.name).toBe("Kept");
    expect(bench.snapshot().problem?.status).toBe(0);
  });

  it("tells of a stale save and can open the current plan", async () => {
    server.revision = 7;
    server.name = "Theirs";
    bench.commit(named("Mine"), "mine");
    await settled();
    expect(bench.snapshot().problem?.status).toBe(409);
    bench.reload();
    await vi.waitFor(() => expect(bench.snapshot().draft.name).toBe("Theirs"));
    expect(server.name).toBe("Theirs");
  });

  it("shows a trial everywhere without keeping it, and puts back what was before", async () => {
    bench.try(named("Bigger"), "a bigger battery");
    await vi.waitFor(() => expect(bench.snapshot().run).toMatchObject({ ran: "Bigger" }));
    expect(bench.snapshot().trial).toBe("a bigger battery");
    expect(server.count("/api/plans")).toBe(0);
    bench.dropTrial();
    expect(bench.snapshot()).toMatchObject({ trial: null, draft: { name: "Moth" } });
    await vi.waitFor(() => expect(bench.snapshot().run).toMatchObject({ ran: "Moth" }));
  });

  it("keeps a trial as one step that undo takes back", async () => {
    bench.try(named("Bigger"), "a bigger battery");
    bench.keepTrial();
    await settled();
    expect(bench.snapshot()).toMatchObject({ trial: null, plan: { document: { name: "Bigger" } } });
    const saves = server.calls.filter((call) => call.method === "PUT");
    expect(saves.map((call) => call.body.did)).toEqual(["tried and kept: a bigger battery"]);
  });

  it("ends a trial when something else is changed", async () => {
    bench.try(named("Bigger"), "a bigger battery");
    bench.commit(named("Other"), "renamed");
    await settled();
    expect(bench.snapshot().trial).toBeNull();
  });

  it("asks quickly first and for all the futures after", async () => {
    bench.commit(named("Quick"), "renamed");
    await settled();
    await vi.waitFor(() => expect(server.searches("/api/preview").length).toBe(2));
    const [quick, full] = server.searches("/api/preview");
    expect(quick?.get("odds")).toBe("quick");
    expect(quick?.get("advice")).toBe("false");
    expect(full?.get("odds")).toBe("full");
    expect(full?.get("advice")).toBe("true");
  });

  it("says that its figures are behind until all the futures of the newest draft are in", async () => {
    bench.preview(named("dragged"));
    expect(bench.snapshot().behind).toBe(true);
    await vi.waitFor(() => expect(bench.snapshot().run).toEqual({ ran: "dragged" }));
    expect(bench.snapshot().behind).toBe(true);
    bench.commit(named("dropped"), "moved");
    await vi.waitFor(() => expect(bench.snapshot().behind).toBe(false));
    expect(bench.snapshot().run).toEqual({ ran: "dropped" });
    expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("full");
  });

  it("is behind no longer when the draft is refused", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("refused")));
    bench.preview(named("lost"));
    await vi.waitFor(() => expect(bench.snapshot().problem?.status).toBe(0));
    expect(bench.snapshot().behind).toBe(false);
  });

  it("asks for the sky that is looked at", async () => {
    bench.look("worst");
    await vi.waitFor(() => expect(server.searches("/api/preview").length).toBe(2));
    expect(server.searches("/api/preview").every((query) => query.get("sky") === "worst")).toBe(
      true,
    );
  });
});

describe("a trip that is under way", () => {
  it("has its rest run with the plan, and no other odds while something is dragged", async () => {
    bench.follow(true);
    bench.preview(named("dragged"));
    await vi.waitFor(() => expect(bench.snapshot().rest).toEqual({ rest: "dragged" }));
    expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("none");
    expect(server.searches("/api/preview").at(-1)?.get("under_way")).toBe("1");
    bench.commit(named("let go"), "moved");
    await settled();
    await vi.waitFor(() => expect(bench.snapshot().rest).toEqual({ rest: "let go" }));
    await vi.waitFor(() =>
      expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("full"),
    );
  });

  it("draws the plan’s own odds too where the plan is looked at", async () => {
    bench.follow(true);
    bench.showPlan(true);
    bench.preview(named("dragged"));
    await vi.waitFor(() => expect(bench.snapshot().rest).toEqual({ rest: "dragged" }));
    expect(server.searches("/api/preview").at(-1)?.get("odds")).toBe("quick");
  });

  it("gives up a rest that was run from an older standpoint", async () => {
    bench.follow(true);
    bench.preview(named("dragged"));
    await vi.waitFor(() => expect(bench.snapshot().rest).not.toBeNull());
    bench.follow(true);
    expect(bench.snapshot().rest).toBeNull();
  });

  it("runs a trial again from a new standpoint", async () => {
    bench.follow(true);
    bench.try(named("a trial"), "a bigger panel");
    await vi.waitFor(() => expect(bench.snapshot().rest).toEqual({ rest: "a trial" }));
    const before = server.count("/api/preview");
    bench.follow(true);
    await vi.waitFor(() => expect(server.count("/api/preview")).toBeGreaterThan(before));
    expect(bench.snapshot().rest).toEqual({ rest: "a trial" });
  });

  it("asks for no rest before it has begun", async () => {
    bench.follow(false);
    bench.preview(named("dragged"));
    await vi.waitFor(() => expect(server.count("/api/preview")).toBe(1));
    expect(server.searches("/api/preview")[0]?.has("under_way")).toBe(false);
  });
});
