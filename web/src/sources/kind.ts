import type { ReactNode } from "react";
import type { BlockKind, Box, Schemas } from "../api/client";
import type { Spec } from "../ui/fields/Fields";

/** The field of a box that lists sources of a kind. */
export type SourceGroup = Schemas["SourceReport"]["kind"] & keyof Box;
export type SourcePart = Box[SourceGroup][number];

/** How the stretches of time in which a kind works stand on the day board. */
export interface SourceBlock {
  kind: BlockKind;
  text: string;
  /** How long a new one is, and when it begins, in minutes. */
  minutes: number;
  start: number;
}

/** What a sheet made of fields shows: its title, what it says below, and the fields in order. */
export interface SourceFields {
  title: string;
  model: string;
  text: string;
  first: readonly Spec<SourcePart>[];
  more: readonly Spec<SourcePart>[];
}

/** All that the pages know of one kind of source. One file a kind; `index.ts` finds it. */
export interface SourceLook {
  key: SourceGroup;
  place: number;
  /** Its word in lists and legends. */
  text: string;
  /** Colour and pale ground by scheme, where the style sheet has none of that name. */
  colours?: Record<"day" | "night", { ink: string; tint: string }>;
  /** Its pattern: the size of a tile, how it is turned, and the marks on its colour. */
  pattern: { tile: number; turned?: number; marks: ReactNode };
  block?: SourceBlock;
  /** Its block is offered on every trip, whether a source works in it or not: a drive, a hook-up. */
  always?: boolean;
  /** Its sheet, where that is nothing but fields; other kinds have a component of their own. */
  fields?: SourceFields;
}
