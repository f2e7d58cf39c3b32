import type { Schemas } from "../api/client";

export type Sentence = Schemas["Sentence"];
export type Choices = Schemas["Choices"];
export type Charger = Sentence["chargers"][number];
export type Thing = Sentence["things"][number];
export type Shape = Sentence["shape"];
export type Piece = Schemas["Piece"];
export type PartKey = NonNullable<Piece["part"]>;

const KEPT = "oddkettle.sentence";

/** The sentence that was being completed in this browser, or none. */
export function keptSentence(): Sentence | null {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "null");
  } catch {
    return null;
  }
}

export function keepSentence(sentence: Sentence | null): void {
  if (sentence) localStorage.setItem(KEPT, JSON.stringify(sentence));
  else localStorage.removeItem(KEPT);
}

/** A box of another kind, of the usual size nearest to what it held before. */
export function withBank(sentence: Sentence, choices: Choices, kind: string): Sentence {
  const before = choices.banks.find((bank) => bank.key === sentence.bank.kind);
  const after = choices.banks.find((bank) => bank.key === kind);
  if (!after) return sentence;
  const same = before?.unit === after.unit;
  const wanted = same ? sentence.bank.size : after.unit === "Wh" ? 700 : 100;
  return {
    ...sentence,
    bank: { ...sentence.bank, kind, size: same ? wanted : nearest(after.sizes, wanted) },
  };
}

/** The one of some sizes that is nearest to a figure. */
export function nearest(sizes: readonly number[], wanted: number): number {
  return sizes.reduce(
    (best, size) => (Math.abs(size - wanted) < Math.abs(best - wanted) ? size : best),
    sizes[0] ?? wanted,
  );
}

/** One more or one less of a thing; none of it takes it out. */
export function withThing(sentence: Sentence, kind: string, count: number): Sentence {
  const there = sentence.things.some((thing) => thing.kind === kind);
  if (count <= 0)
    return { ...sentence, things: sentence.things.filter((thing) => thing.kind !== kind) };
  const things = there
    ? sentence.things.map((thing) => (thing.kind === kind ? { ...thing, count } : thing))
    : [...sentence.things, { kind, count }];
  return { ...sentence, things };
}

/** The sentence with a way to charge added, changed or taken out. */
export function withCharger(
  sentence: Sentence,
  kind: Charger["kind"],
  change: Partial<Charger> | null,
) {
  const there = sentence.chargers.some((charger) => charger.kind === kind);
  if (change === null)
    return { ...sentence, chargers: sentence.chargers.filter((one) => one.kind !== kind) };
  const chargers = there
    ? sentence.chargers.map((one) => (one.kind === kind ? { ...one, ...change } : one))
    : [...sentence.chargers, { kind, size: 100, every: 1, minutes: 60, ...change }];
  return { ...sentence, chargers };
}

export const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
] as const;
export const THIRDS = [
  { text: "early", day: 5 },
  { text: "mid", day: 15 },
  { text: "late", day: 25 },
] as const;

/** The next day in that third of that month, as YYYY-MM-DD. */
export function nextDate(month: number, day: number, today: Date): string {
  const year = today.getFullYear();
  const passed =
    month < today.getMonth() || (month === today.getMonth() && day < today.getDate()) ? 1 : 0;
  const two = (value: number) => String(value).padStart(2, "0");
  return `${year + passed}-${two(month + 1)}-${two(day)}`;
}
