import { beforeEach, describe, expect, it, vi } from "vitest";

const kept = new Map<string, unknown>();
vi.mock("./storage", () => ({
  read: async (key: string) => structuredClone(kept.get(key)),
  write: async (key: string, value: unknown) => void kept.set(key, structuredClone(value)),
}));
const { Outbox } = await import("./outbox");

type Reply = number | "lost";

/** A server that answers in this way, one after the other, and then takes everything. */
function server(...replies: Reply[]) {
  const written = new Map<string, unknown>();
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const key = request.headers.get("idempotency-key") ?? "none";
    asked.push(key);
    const reply = replies.shift() ?? 201;
    const entry = await request.json();
    if (reply === 0 || (reply === "lost" && !written.set(key, entry))) throw new TypeError("away");
    if (reply === "lost") throw new TypeError("away");
    if (reply >= 400)
      return Response.json(
        { title: "No", detail: `refused ${reply}`, status: reply },
        { status: reply },
      );
    if (!written.has(key)) written.set(key, entry);
    return Response.json({ text: entry.kind, against: "" }, { status: 201 });
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
  beforeEach(() => kept.clear());

  it("sends at once where somebody answers", async () => {
    const { written } = server();
    const box = new Outbox();
    expect(await box.write(1, entry("full"), "full")).toMatchObject({ how: "sent" });
    expect(written.size).toBe(1);
    expect(box.snapshot().waiting).toEqual([]);
  });

  it("keeps the order, over a start of the page too", async () => {
    const { kinds } = server(0, 0);
    const box = new Outbox();
    expect(await box.write(1, entry("full"), "full")).toEqual({ how: "waiting" });
    expect(await box.write(1, entry("drove"), "drove")).toEqual({ how: "waiting" });
    const later = new Outbox();
    await later.send();
    expect(kinds()).toEqual(["full", "drove"]);
    expect(later.snapshot().waiting).toEqual([]);
    expect(kept.get("outbox")).toEqual([]);
  });

  it("writes once what was written and never answered", async () => {
    const { written, asked } = server("lost");
    const box = new Outbox();
    expect(await box.write(1, entry("full"), "full")).toEqual({ how: "waiting" });
    await box.send();
    expect(asked).toHaveLength(2);
    expect(asked[0]).toBe(asked[1]);
    expect(written.size).toBe(1);
  });

  it("tells its writer at once what is refused, and keeps nothing of it", async () => {
    server(422);
    const box = new Outbox();
    expect(await box.write(1, entry("full"), "full")).toEqual({
      how: "refused",
      why: "refused 422",
    });
    expect(box.snapshot().waiting).toEqual([]);
  });

  it("lets what is refused later hold up nobody", async () => {
    const { kinds } = server(0, 0, 422);
    const box = new Outbox();
    await box.write(1, entry("full"), "full");
    await box.write(1, entry("drove"), "drove");
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
    expect(await box.write(1, entry("full"), "full")).toEqual({ how: "waiting" });
    await box.send();
    expect(kinds()).toEqual(["full"]);
  });

  it("sends none twice when two rounds are asked for at once", async () => {
    const { asked } = server(0);
    const box = new Outbox();
    await box.write(1, entry("full"), "full");
    await Promise.all([box.send(), box.send(), box.write(1, entry("drove"), "drove")]);
    expect(asked).toHaveLength(3);
    expect(new Set(asked).size).toBe(2);
  });
});
