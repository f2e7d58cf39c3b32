import type { Schemas, Weighed } from "../../api/client";

export type Mend = Schemas["Mend"];

/** Single changes by what they do: enough alone, a help, or no clear difference. */
export interface Sorted {
  enough: Weighed[];
  helps: Weighed[];
  others: Weighed[];
}

/** Whether a change touches what is never to change. */
export function isNever({ change }: Weighed, never: readonly string[]): boolean {
  return change.slot != null && never.includes(change.slot);
}

/** What a change costs at the least; what is free costs nothing. */
function price({ change }: Weighed): number {
  return change.saves ? 0 : (change.euro?.low ?? 0);
}

/** Leaving something at home is always an answer, and seldom the one that is looked for. */
function without({ change }: Weighed): number {
  return Number(change.key.startsWith("without:"));
}

const byHelp = (a: Weighed, b: Weighed) =>
  without(a) - without(b) ||
  b.points - a.points ||
  b.less_dark_h - a.less_dark_h ||
  b.less_under_h - a.less_under_h ||
  b.low_points - a.low_points;

/** The changes in the order in which one would try them: what is free before what is bought. */
export function sorted(changes: readonly Weighed[], sure: number): Sorted {
  const enough = changes.filter((one) => one.lasts_percent >= sure);
  const rest = changes.filter((one) => one.lasts_percent < sure);
  const helps = (one: Weighed) =>
    one.points > 0.5 || one.less_dark_h >= 0.05 || one.less_under_h >= 0.05;
  return {
    enough: enough.toSorted(
      (a, b) => without(a) - without(b) || price(a) - price(b) || byHelp(a, b),
    ),
    helps: rest.filter(helps).toSorted(byHelp),
    others: rest.filter((one) => !helps(one)).toSorted(byHelp),
  };
}

/** What is best: its words, how often it lasts then, and what it changes. */
export interface Best {
  text: string;
  to: number;
  free: boolean;
  edits: Mend["edits"];
}

/** The fix with the least effort; where it needs a shop, the cheapest change that is enough. */
export function bestOf(found: Sorted, mends: readonly Mend[]): Best | null {
  const [mend] = mends;
  const [alone] = found.enough;
  const single = alone && {
    text: alone.change.text,
    to: alone.lasts_percent,
    free: price(alone) === 0,
    edits: alone.change.edits,
  };
  if (mend && !(single?.free && mend.paid))
    return {
      text: joined(mend.steps),
      to: mend.lasts_percent,
      free: !mend.paid,
      edits: mend.edits,
    };
  return single ?? null;
}

/** The answer: what is enough, or what helps most, with both numbers. */
export function answerOf(now: number, best: Best | null, found: Sorted, busy: boolean): string {
  const from = Math.round(now);
  if (busy && !best?.free) return `Looking for the easiest fix: ${from} of 100 now…`;
  if (best)
    return `${best.text}: ${from} of 100 becomes ${Math.round(best.to)}.${best.free ? " It is free." : ""}`;
  const [most] = found.helps;
  if (most)
    return `${most.change.text} helps most: ${from} of 100 becomes ${Math.round(most.lasts_percent)}. It is not enough.`;
  return "No single change here makes it surer.";
}

/** Two steps with "and", more with commas before it. */
export function joined(steps: readonly string[]): string {
  const [last = "", ...before] = steps.toReversed();
  if (before.length === 0) return last;
  const low = last.charAt(0).toLowerCase() + last.slice(1);
  return `${before.toReversed().join(", ")} and ${low}`;
}
