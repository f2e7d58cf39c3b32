/** What a browser has and jsdom lacks: sizes, pointers held, events; and the engine at its address. */
import { configure } from "@testing-library/dom";
import { flushSync } from "react-dom";
import { afterEach, inject } from "vitest";
import { clear } from "./page";

declare module "vitest" {
  interface ProvidedContext {
    engine: string;
  }
}

const WIDE = { width: 1000, height: 40 };
const PATIENCE_MS = 120_000;

configure({
  asyncUtilTimeout: Number(import.meta.env.VITE_PATIENCE_MS ?? PATIENCE_MS),
  defaultHidden: true,
  // The message without the whole document, which no one reads.
  getElementError: (message) => new Error(message ?? "not found"),
  // What an event changes is on screen before the next one, as for a person.
  eventWrapper: (dispatch) => flushSync(dispatch),
  asyncWrapper: async (act) => {
    const done = await act();
    await new Promise((next) => setTimeout(next));
    return done;
  },
});

const fetchOverNetwork = globalThis.fetch;
const answered: { path: RegExp; answer: () => Response }[] = [];

/** The engine is at an address of its own; the page asks where it stands. */
globalThis.fetch = async (asked: RequestInfo | URL, options?: RequestInit) => {
  const request = asked instanceof Request ? asked : null;
  const url = new URL(request ? request.url : String(asked), window.location.href);
  const other = answered.find(({ path }) => path.test(url.pathname));
  if (other) return other.answer();
  const body = request && request.method !== "GET" ? await request.arrayBuffer() : undefined;
  const headers = new Headers(request?.headers ?? options?.headers);
  return fetchOverNetwork(inject("engine") + url.pathname + url.search, {
    ...(request ? {} : { body: options?.body }),
    ...(body ? { body } : {}),
    method: request?.method ?? options?.method ?? "GET",
    headers,
  });
};

/** Answer questions at a path in the engine's place, until the test is over. */
export function answerInstead(path: RegExp, answer: () => Response): () => void {
  answered.push({ path, answer });
  return () => void answered.splice(0);
}

globalThis.ResizeObserver = class {
  constructor(private readonly tell: ResizeObserverCallback) {}
  observe() {
    const entry = { contentRect: WIDE } as ResizeObserverEntry;
    this.tell([entry], this);
  }
  unobserve() {}
  disconnect() {}
};
Element.prototype.getBoundingClientRect = () =>
  ({ ...WIDE, x: 0, y: 0, top: 0, left: 0, right: WIDE.width, bottom: WIDE.height }) as DOMRect;
Element.prototype.scrollIntoView = () => undefined;
Element.prototype.hasPointerCapture = () => false;
Element.prototype.setPointerCapture = () => undefined;
Element.prototype.releasePointerCapture = () => undefined;
// No styles are loaded; to work out those of every element is most of what a search by name costs.
const PLAIN_STYLE = { display: "block", visibility: "visible", getPropertyValue: () => "" };
window.getComputedStyle = () => PLAIN_STYLE as never;
// Asked of every control by a search by name; jsdom walks the whole document for each.
for (const kind of [HTMLButtonElement, HTMLInputElement, HTMLSelectElement, HTMLTextAreaElement])
  Object.defineProperty(kind.prototype, "labels", {
    get(this: HTMLElement) {
      const labels = [...document.getElementsByTagName("label")];
      return labels.filter((one) => (this.id && one.htmlFor === this.id) || one.contains(this));
    },
  });
window.scrollTo = () => undefined;
window.matchMedia = (media) =>
  ({ matches: false, media, addEventListener() {}, removeEventListener() {} }) as never;
globalThis.EventSource = class {
  close() {}
  addEventListener() {}
  removeEventListener() {}
} as never;

afterEach(() => {
  clear();
  answered.splice(0);
  localStorage.clear();
});
