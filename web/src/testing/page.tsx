/**
 * A page as it is, in a document without layout: the real app on a plan of the test's own, whose
 * figures the engine makes. What only a browser shows (drags, sizes, two devices) is tested there.
 *
 * React is the one that users get, not the one for development: that takes twice as long.
 */
import { screen, waitFor, within } from "@testing-library/dom";
import userEvent from "@testing-library/user-event";
import { computeAccessibleName } from "dom-accessibility-api";
import { createRoot, type Root } from "react-dom/client";
import { expect } from "vitest";
import type { OpenPlan, Plan } from "../api/client";
import { App } from "../shell/App";

/** A pattern where a reader sees words; meaning is asked for, so no whole sentences. */
type Words = string | RegExp;
type Place = ReturnType<typeof within> | typeof screen;

/** Whether a name, as a reader hears it, is meant: thin and unbreakable spaces are spaces. */
function fits(words: Words, name: string): boolean {
  const plain = name.replace(/\s+/g, " ").trim();
  return typeof words === "string" ? plain === words : words.test(plain);
}

/** What has this role and name now. The name is worked out only where a glance says that it may fit. */
export function all(role: string, name: Words, place: Place = screen): HTMLElement[] {
  return place.queryAllByRole(role).filter((element: HTMLElement) => {
    const glance =
      element.getAttribute("aria-label") ??
      (element as HTMLInputElement).labels?.[0]?.textContent ??
      element.textContent ??
      "";
    const told = element.hasAttribute("aria-labelledby") || fits(loosely(name), glance);
    return told && fits(name, computeAccessibleName(element));
  });
}

/** A glance knows nothing of spaces between parts and of marks that are not read out. */
function loosely(name: Words): RegExp {
  if (typeof name === "string") return new RegExp(name.slice(0, 4).replace(/\W/g, "."));
  return new RegExp(name.source.replace(/^\^|\$$/g, ""), name.flags);
}

/** What has this role and name, once it is there. */
export async function get(role: string, name: Words, place: Place = screen): Promise<HTMLElement> {
  return waitFor(() => {
    const found = all(role, name, place)[0];
    if (!found) throw new Error(`no ${role} called ${name}`);
    return found;
  });
}

/** Wait until nothing has this role and name. */
export async function gone(role: string, name: Words, place: Place = screen): Promise<void> {
  await waitFor(() => expect(all(role, name, place)).toHaveLength(0));
}

export const user = userEvent.setup({ delay: null, pointerEventsCheck: 0 });

const kept = new Map<string, Blob>();
let id = 0;
let root: Root | null = null;

/** Take away what is on screen. */
export function clear(): void {
  root?.unmount();
  root = null;
  document.body.replaceChildren();
}

async function sample(name: string): Promise<Blob> {
  const known = kept.get(name);
  if (known) return known;
  for (const title of await ask("/api/plans")) {
    const file = await (await fetch(`/api/plans/${title.id}/file`)).blob();
    const { box } = JSON.parse(await file.text());
    if (!kept.has(box.key)) kept.set(box.key, file);
    if (box.key === name) return file;
  }
  throw new Error(`no sample ${name}`);
}

/**
 * Open a page on a new copy of a sample box, with the demo's own log where that is asked for; waits
 * until its figures are there.
 */
export async function openPage(path: string, name = "moth-survey", logged = false) {
  const plan: Plan = JSON.parse(await (await sample(name)).text());
  // Fewer scenarios than a user's: a test asks whether figures follow, not how fine they are.
  const body = JSON.stringify({ ...plan, assumptions: { ...plan.assumptions, scenarios: 20 } });
  const answer = await fetch("/api/plans/import", { method: "POST", body });
  id = ((await answer.json()) as OpenPlan).id;
  if (logged) await writeTheDemosLog();
  await show(path);
}

async function writeTheDemosLog(): Promise<void> {
  for (const { detail, at_local, kind, value } of await ask("/api/plans/1/log")) {
    const said = Object.fromEntries(Object.entries(detail).filter(([, one]) => one !== null));
    const body = JSON.stringify({ ...said, at: at_local, kind, value });
    const headers = { "content-type": "application/json" };
    const answer = await fetch(`/api/plans/${id}/log`, { method: "POST", body, headers });
    expect(answer.status).toBe(201);
  }
}

// biome-ignore lint/suspicious/noExplicitAny: whatever the engine says of it
async function ask(path: string): Promise<any> {
  return (await fetch(path)).json();
}

/** How many samples the engine keeps of the plan that is open. */
export async function storedSamples(): Promise<number> {
  return (await ask(`/api/plans/${id}/samples`)).total;
}

/** What is listed on the page, as text. */
export function listed(): string {
  return screen
    .queryAllByRole("listitem")
    .map((item) => item.textContent)
    .join("\n");
}

/** Show what stands at an address of the app, with a plan or without. */
export function showAt(address: string): void {
  clear();
  localStorage.setItem("oddkettle.looked", "all");
  window.history.pushState({}, "", address);
  const place = document.body.appendChild(document.createElement("div"));
  root = createRoot(place);
  root.render(<App />);
}

/** Show a page of the plan that is open: as it is after a reload, whatever was on screen. */
export async function show(path: string): Promise<void> {
  showAt(`/plan/${id}/${path}`);
  await screen.findByTestId("headline");
  await settled();
}

/** Wait until nothing is being saved and the figures are those of the plan. */
export async function settled(): Promise<void> {
  await waitFor(() => {
    const marks = document.querySelectorAll("header span, header button");
    const saving = [...marks].some((mark) => mark.textContent?.trim() === "…");
    if (saving || !document.querySelector("main[aria-busy=false]")) throw new Error("not settled");
  });
}

/** The plan as the engine keeps it. */
export async function stored(): Promise<Plan> {
  await settled();
  return ((await ask(`/api/plans/${id}`)) as OpenPlan).document;
}

/** Press what has this role and name, once it can be pressed. */
export async function press(role: string, name: Words, place: Place = screen): Promise<void> {
  const found = await get(role, name, place);
  await waitFor(() => expect((found as HTMLButtonElement).disabled ?? false).toBe(false));
  await user.click(found);
}

/** Press the words themselves: a fold's summary, say. */
export async function unfold(words: Words, place: Place = screen): Promise<void> {
  await user.click((await place.findAllByText(words))[0] as HTMLElement);
}

/** The field of this label; a slider of the same name is none. */
export async function field(label: Words, place: Place = screen): Promise<HTMLInputElement> {
  return (await get("textbox", label, place)) as HTMLInputElement;
}

/** Type into the field of this label, and finish it. */
export async function type(label: Words, text: string, place: Place = screen): Promise<void> {
  const box = await field(label, place);
  await user.clear(box);
  await user.type(box, `${text}{Enter}`);
}

/** Choose from a list by its words. */
export async function choose(label: Words, option: Words, place: Place = screen): Promise<void> {
  const list = await get("combobox", label, place);
  await user.selectOptions(list, await get("option", option, within(list)));
}

/** Wait until what stands there says so. */
export async function says(testId: string, words: Words, place: Place = screen): Promise<void> {
  await waitFor(() => {
    const text = place.getAllByTestId(testId)[0]?.textContent ?? "";
    if (typeof words === "string") expect(text).toContain(words);
    else expect(text).toMatch(words);
  });
}

/** What stands at a mark, once the figures are those of the plan. */
export async function figure(testId: string): Promise<string> {
  await settled();
  return (await screen.findAllByTestId(testId))[0]?.textContent ?? "";
}
