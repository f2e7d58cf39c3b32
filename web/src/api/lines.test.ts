import { afterEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "./client";
import { askInLines, gathered } from "./lines";

/** An answer whose body comes in these pieces, wherever they break. */
function inPieces(pieces: readonly string[]): Response {
  const encoder = new TextEncoder();
  return new Response(
    new ReadableStream({
      start(controller) {
        for (const piece of pieces) controller.enqueue(encoder.encode(piece));
        controller.close();
      },
    }),
  );
}

afterEach(() => vi.unstubAllGlobals());

describe("asking in lines", () => {
  it("hands over each line whole, however the pieces are cut", async () => {
    vi.stubGlobal("fetch", async () => inPieces(['{"n":1}\n{"n', '":2}\n', '{"n":3}', "\n"]));
    const got: unknown[] = [];
    await askInLines("/x", {}, new AbortController().signal, (line) => got.push(line));
    expect(got).toEqual([{ n: 1 }, { n: 2 }, { n: 3 }]);
  });

  it("keeps letters that fall between two pieces", async () => {
    const bytes = new TextEncoder().encode('{"text":"Zürich"}\n');
    const body = new ReadableStream({
      start(controller) {
        controller.enqueue(bytes.slice(0, 11));
        controller.enqueue(bytes.slice(11));
        controller.close();
      },
    });
    vi.stubGlobal("fetch", async () => new Response(body));
    const got: { text: string }[] = [];
    await askInLines<{ text: string }>("/x", {}, new AbortController().signal, (l) => got.push(l));
    expect(got[0]?.text).toBe("Zürich");
  });

  it("carries a refusal as one", async () => {
    const problem = { type: "about:blank", title: "No", status: 422, detail: "cannot be" };
    vi.stubGlobal("fetch", async () => Response.json(problem, { status: 422 }));
    const asked = askInLines("/x", {}, new AbortController().signal, () => undefined);
    await expect(asked).rejects.toThrow(Refusal);
    await expect(asked).rejects.toThrow("cannot be");
  });

  it("is quiet when it was given up, and speaks when nobody answers", async () => {
    vi.stubGlobal("fetch", async () => {
      throw new TypeError("gone");
    });
    const given = new AbortController();
    given.abort();
    await expect(askInLines("/x", {}, given.signal, () => undefined)).resolves.toBeUndefined();
    const asked = askInLines("/x", {}, new AbortController().signal, () => undefined);
    await expect(asked).rejects.toThrow("does not answer");
  });
});

describe("gathering lines", () => {
  it("hands over lists that stay as they were handed over", () => {
    const lists: (readonly number[])[] = [];
    const gather = gathered<number>((list) => lists.push(list));
    for (const n of [1, 2, 3]) gather(n);
    expect(lists).toEqual([[1], [1, 2], [1, 2, 3]]);
  });

  it("begins anew with each question, however late a list is read", () => {
    let shown: readonly string[] = [];
    const first = gathered<string>((list) => (shown = list));
    first("old base");
    first("old change");
    const second = gathered<string>((list) => (shown = list));
    second("base");
    second("change");
    expect(shown).toEqual(["base", "change"]);
  });
});
