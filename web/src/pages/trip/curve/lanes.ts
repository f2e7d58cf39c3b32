import type { Block, Plan, Series } from "../../../api/client";
import { patternOf, SOURCES, type SourceGroup } from "../../../sources";
import { blockFacts } from "../board/blocks/blocks";

/** A lane under the curve: the blocks of one kind, or the current of what has none. */
export interface Lane {
  key: string;
  /** Its name, left of it. */
  text: string;
  fill: string;
  stroke: string;
  blocks: readonly Block[];
  /** A current that is drawn as an area, step by step [A]. */
  amps?: readonly number[] | undefined;
}

/** The lanes of a trip: one a kind of source in the box, one for use, one for every other kind. */
export function lanesOf(
  plan: Plan,
  series: Series,
  taken: ReadonlyMap<SourceGroup, readonly number[]>,
): Lane[] {
  const { box, trip } = plan;
  const lanes: Lane[] = SOURCES.filter(({ key }) => box[key].length > 0).map((look) => {
    const kind = look.block?.kind ?? (look.key === "sun" ? "panel_out" : null);
    return {
      key: look.key,
      text: look.block?.text ?? look.text,
      fill: patternOf(look.key),
      stroke: `var(--color-${look.key === "sun" ? "sun-ink" : look.key})`,
      blocks: trip.blocks.filter((block) => block.kind === kind),
      // What works in no block works whenever it can: its current is the picture.
      amps: look.block ? undefined : taken.get(look.key),
    };
  });
  const shown = new Set(lanes.flatMap((lane) => lane.blocks.map((block) => block.id)));
  const others = trip.blocks.filter((block) => !shown.has(block.id));
  for (const kind of new Set(others.map((block) => block.kind)))
    lanes.push({
      key: kind,
      text: blockFacts(kind).text,
      fill: kind === "outage" ? "url(#pat-outage)" : "var(--color-band)",
      stroke: kind === "outage" ? "var(--color-danger)" : "var(--color-ash)",
      blocks: others.filter((block) => block.kind === kind),
    });
  lanes.push({
    key: "use",
    text: "use",
    fill: "var(--color-use)",
    stroke: "var(--color-use)",
    blocks: [],
    amps: series.load_a,
  });
  return lanes;
}
