import type { BlockTold, ThingState } from "../api/client";

/** What is said of a thing's state in the log; nothing of what is still ahead. */
export const SAID: Record<ThingState, string> = {
  ahead: "",
  now: "now",
  to_tick: "did you?",
  did: "done",
  part: "partly done",
  changed: "done, at other hours",
  did_not: "skipped",
};

/** The sign beside a block on the board. */
export const MARKS: Record<ThingState, string> = {
  ahead: "",
  now: "",
  to_tick: "?",
  did: "✓",
  part: "½",
  changed: "✓⁺",
  did_not: "✗",
};

/** How a thing went, with its hours and by which device that is known. */
export function wentWords(told: Pick<BlockTold, "state" | "went" | "by">): string {
  const said = SAID[told.state];
  if (!said) return "";
  return `${said}${told.went && `, ${told.went}`}${told.by && ` (${told.by})`}`;
}

/** Whether nothing was said of it yet. */
export const isOpen = (state: ThingState): boolean =>
  state === "ahead" || state === "now" || state === "to_tick";
