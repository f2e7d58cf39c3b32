import type { OwnedPart } from "../../api/client";

/** A price, or a range of guesses. */
export function euroSpan(low: number, high: number): string {
  const digits = high < 10 ? 2 : 0;
  const [from, to] = [low, high].map((value) => value.toFixed(digits));
  return from === to ? `${from}` : `${from} to ${to}`;
}

/** The plan's parts with one of them changed; what says nothing any more is left out. */
export function withPart(parts: readonly OwnedPart[], next: OwnedPart): OwnedPart[] {
  const { part: _, ...said } = next;
  const text = Object.values(said).some((value) => value != null && value !== false);
  const others = parts.filter((one) => one.part !== next.part);
  return text ? [...others, next] : others;
}
