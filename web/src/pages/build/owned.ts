import type { OwnedPart } from "../../api/client";

/** The plan's parts with one of them changed; what says nothing any more is left out. */
export function withPart(parts: readonly OwnedPart[], next: OwnedPart): OwnedPart[] {
  const { part: _, ...said } = next;
  const text = Object.values(said).some((value) => value != null && value !== false);
  const others = parts.filter((one) => one.part !== next.part);
  return text ? [...others, next] : others;
}
