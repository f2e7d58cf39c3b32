import { GROUPS } from "../sources";

/** A box's lists of sources, all empty: of every kind that there is. */
export const NO_SOURCES = Object.fromEntries(GROUPS.map((group) => [group, []]));
