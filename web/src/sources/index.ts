import type { BlockKind, Box, Series } from "../api/client";
import type { SourceGroup, SourceLook, SourcePart } from "./kind";

export type { SourceBlock, SourceGroup, SourceLook, SourcePart } from "./kind";

const found = import.meta.glob<{ look: SourceLook }>(
  ["./*.tsx", "!./*.test.tsx", "!./SourceStyles.tsx"],
  { eager: true },
);

/** Every kind of source, in the order in which kinds are listed. */
export const SOURCES: readonly SourceLook[] = Object.values(found)
  .map((module) => module.look)
  .toSorted((a, b) => a.place - b.place);
export const GROUPS: readonly SourceGroup[] = SOURCES.map((look) => look.key);

const BY_KEY = new Map<string, SourceLook>(SOURCES.map((look) => [look.key, look]));
const BY_BLOCK = new Map<BlockKind, SourceLook>(
  SOURCES.flatMap((look) => (look.block ? [[look.block.kind, look] as const] : [])),
);

/** A kind by its key; undefined for what is no source. */
export function lookOf(key: string): SourceLook | undefined {
  return BY_KEY.get(key);
}

/** The kind that works in blocks of some kind; undefined for blocks that are no source's. */
export function sourceOfBlock(kind: BlockKind): SourceLook | undefined {
  return BY_BLOCK.get(kind);
}

/** A source's fill in drawings: its pattern on its colour. */
export function patternOf(key: string): string {
  return `url(#pat-${key})`;
}

/** Every source of a box, kind by kind. */
export function sourcesOf(box: Box): SourcePart[] {
  return GROUPS.flatMap((group) => box[group] as SourcePart[]);
}

/** What all sources of a kind put in, step by step [A]. */
export function takenBy(series: Series, box: Box, group: SourceGroup): number[] {
  const all = box[group].flatMap((source) => {
    const amps = series.taken_a[source.id];
    return amps ? [amps] : [];
  });
  const [first, ...others] = all;
  if (!first) return [];
  return others.length === 0
    ? first
    : first.map((amps, i) => others.reduce((sum, other) => sum + (other[i] ?? 0), amps));
}
