import "fake-indexeddb/auto";
import { openDB } from "idb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { meetDataFile } from "./dataFile";
import { Outbox, type TripMark } from "./outbox";
import { storage } from "./storage";

const HERE = "0123456789ab";
const TRIP: TripMark = { planId: 1, dataFile: HERE, tripKey: "aaaa", title: "Moth survey" };

type Reply = number | "lost";

/** A server that answers in this way, one after the other, and then takes everything. */
function server(...replies: Reply[]) {
  return serverOf(HERE, ...replies);
}

/** Such a server with a data file of this name. */
function serverOf(dataFile: string, ...replies: Reply[]) {
  const written = new Map<string, unknown>();
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const key = request.headers.get("idempotency-key") ?? "none";
    asked.push(key);
    const reply = replies.shift() ?? 201;
    const entry = await request.json();
    if (reply === 0 || (reply === "lost" && !written.set(key, entry))) throw new TypeError("away");
    if (reply === "lost") throw new TypeError("away");
    const belongs = request.headers.get("data-file") === dataFile;
    if (!belongs && reply < 400)
      return Response.json(
        { title: "Belongs elsewhere", status: 409 },
        { status: 409, headers: { "data-file": dataFile } },
      );
    if (reply >= 400)
      return Response.json(
        { title: "No", detail: `refused ${reply}`, status: reply },
        { status: reply },
      );
    if (!written.has(key)) written.set(key, entry);
    return Response.json(
      { text: entry.kind, against: "" },
      { status: 201, headers: { "data-file": dataFile } },
    );
  });
  return {
    written,
    asked,
    kinds: () => [...written.values()].map((e) => (e as { kind: string }).kind),
  };
}
const entry = (kind: "full" | "cut_out" | "drove") =>
  ({ kind, at: "2026-06-08T08:00", note: "" }) as Parameters<
    InstanceType<typeof Outbox>["write"]
  >[1];

describe("the outbox", () => {
  beforeEach(async () => {
    for (const note of await storage.notes()) await storage.removeNote(note.key);
  });
  afterEach(() => vi.unstubAllGlobals());

  it("sends at once where somebody answers", async () => {
    const { written } = server();
    const box = new Outbox();
    expect(await box.write(TRIP, entry("full"), "full")).toMatchObject({ how: "sent" });
    expect(written.size).toBe(1);
    expect(box.snapshot().waiting).toEqual([]);
  });

  it("keeps the order, over a start of the page too", async () => {
    const { kinds } = server(0, 0);
    const box = new Outbox();
    expect(await box.write(TRIP, entry("full"), "full")).toEqual({ how: "waiting" });
    expect(await box.write(TRIP, entry("drove"), "drove")).toEqual({ how: "waiting" });
    const later = new Outbox();
    await later.send();
    expect(kinds()).toEqual(["full", "drove"]);
    expect(later.snapshot().waiting).toEqual([]);
    expect(await storage.notes()).toEqual([]);
  });

  it("writes once what was written and never answered", async () => {
    const { written, asked } = server("lost");
    const box = new Outbox();
    expect(await box.write(TRIP, entry("full"), "full")).toEqual({ how: "waiting" });
    await box.send();
    expect(asked).toHaveLength(2);
    expect(asked[0]).toBe(asked[1]);
    expect(written.size).toBe(1);
  });

  it("tells its writer at once what is refused, and keeps nothing of it", async () => {
    server(422);
    const box = new Outbox();
    expect(await box.write(TRIP, entry("full"), "full")).toEqual({
      how: "refused",
      why: "refused 422",
    });
    expect(box.snapshot().waiting).toEqual([]);
  });

  it("lets what is refused later hold up nobody", async () => {
    const { kinds } = server(0, 0, 422);
    const box = new Outbox();
    await box.write(TRIP, entry("full"), "full");
    await box.write(TRIP, entry("drove"), "drove");
    await box.send();
    expect(kinds()).toEqual(["drove"]);
    const [left] = box.snapshot().waiting;
    expect(left).toMatchObject({ says: "full", refused: "refused 422" });
    await box.again(left?.key ?? "");
    expect(kinds()).toEqual(["drove", "full"]);
  });

  it("waits where the server is busy, and sends the same later", async () => {
    const { kinds } = server(503);
    const box = new Outbox();
    expect(await box.write(TRIP, entry("full"), "full")).toEqual({ how: "waiting" });
    await box.send();
    expect(kinds()).toEqual(["full"]);
  });

  it("sends none twice when two rounds are asked for at once", async () => {
    const { asked } = server(0);
    const box = new Outbox();
    await box.write(TRIP, entry("full"), "full");
    await Promise.all([box.send(), box.send(), box.write(TRIP, entry("drove"), "drove")]);
    expect(asked).toHaveLength(3);
    expect(new Set(asked).size).toBe(2);
  });

  it("keeps every note of two tabs that write out of reach at once", async () => {
    server(...Array<Reply>(40).fill(0));
    const tabs = [new Outbox(), new Outbox()];
    await Promise.all(
      Array.from({ length: 10 }, (_, n) => tabs[n % 2]?.write(TRIP, entry("full"), `note ${n}`)),
    );
    const kept = (await storage.notes()).map((note) => note.says);
    expect(kept.toSorted()).toEqual(Array.from({ length: 10 }, (_, n) => `note ${n}`));
    const { written, kinds } = server();
    await Promise.all(tabs.map((tab) => tab.send()));
    expect(written.size).toBe(10);
    expect(kinds()).toHaveLength(10);
    expect(await storage.notes()).toEqual([]);
  });

  it("shows a note only when it is kept", async () => {
    server(0);
    const box = new Outbox();
    const seen: number[] = [];
    box.subscribe(() => {
      const shown = box.snapshot().waiting.length;
      void storage.notes().then((kept) => seen.push(kept.length - shown));
    });
    await box.write(TRIP, entry("full"), "full");
    expect(seen.every((lacking) => lacking >= 0)).toBe(true);
    expect(box.snapshot().waiting).toHaveLength(1);
  });

  it("keeps what belongs to another data file, and sends it when that one is open again", async () => {
    const other = serverOf("ffffffffffff");
    const box = new Outbox();
    expect(await box.write(TRIP, entry("full"), "full")).toEqual({ how: "waiting" });
    expect(await box.write(TRIP, entry("drove"), "drove")).toEqual({ how: "waiting" });
    expect(other.written.size).toBe(0);
    expect(box.snapshot().waiting.map((one) => one.elsewhere)).toEqual([true, true]);
    // It is not asked again and again where it is refused for good.
    await box.send();
    expect(other.asked).toHaveLength(2);
    const own = server();
    meetDataFile(new Response(null, { headers: { "data-file": HERE } }));
    await vi.waitFor(() => expect(own.kinds()).toEqual(["full", "drove"]));
    await vi.waitFor(async () => expect(await storage.notes()).toEqual([]));
  });
});

describe("an outbox that is loaded after the first answer came", () => {
  it("sends what waited for the data file that answered", async () => {
    const note = { key: "cccccccc", ...TRIP, entry: entry("full"), says: "full", writtenAt: "" };
    await storage.addNote({ ...note, elsewhere: true });
    meetDataFile(new Response(null, { headers: { "data-file": HERE } }));
    const { kinds } = server();
    const late = new Outbox();
    await vi.waitFor(() => expect(kinds()).toEqual(["full"]));
    await vi.waitFor(() => expect(late.snapshot().waiting).toEqual([]));
    vi.unstubAllGlobals();
  });
});

describe("notes of an older page", () => {
  it("are taken over in their order, and sent without saying where they belong", async () => {
    vi.resetModules();
    const old = await openDB("keyval-store", 1, {
      upgrade: (db) => db.createObjectStore("keyval"),
    });
    const note = (key: string, kind: "full" | "drove") => ({
      key,
      planId: 1,
      entry: entry(kind),
      says: kind,
      writtenAt: "2026-06-08T08:00:00Z",
    });
    await old.put("keyval", [note("aaaaaaaa", "full"), note("bbbbbbbb", "drove")], "outbox");
    old.close();
    const asked: (string | null)[] = [];
    const kinds: string[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      asked.push(request.headers.get("data-file"));
      kinds.push(((await request.json()) as { kind: string }).kind);
      return Response.json({ text: "", against: "" }, { status: 201 });
    });
    const fresh = await import("./outbox");
    await fresh.outbox.send();
    expect(kinds).toEqual(["full", "drove"]);
    expect(asked).toEqual([null, null]);
    const { storage: now } = await import("./storage");
    expect(await now.notes()).toEqual([]);
    vi.unstubAllGlobals();
  });
});

describe("a browser that keeps nothing", () => {
  it("holds notes as long as the page, and sends them", async () => {
    vi.resetModules();
    vi.stubGlobal("indexedDB", undefined);
    const { Outbox: Fresh } = await import("./outbox");
    const away = server(0, 0);
    const box = new Fresh();
    expect(await box.write(TRIP, entry("full"), "full")).toEqual({ how: "waiting" });
    await box.write(TRIP, entry("drove"), "drove");
    expect(box.snapshot().waiting.map((one) => one.says)).toEqual(["full", "drove"]);
    await box.send();
    expect(away.kinds()).toEqual(["full", "drove"]);
    expect(box.snapshot().waiting).toEqual([]);
    vi.unstubAllGlobals();
  });
});
