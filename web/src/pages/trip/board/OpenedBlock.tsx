import type { Plan, Track } from "../../../api/client";
import { usePlanStore } from "../../../plan/context";
import { BlockSheet } from "./blocks/BlockSheet";
import { blockFacts, withBlock } from "./blocks/blocks";
import type { useBoard } from "./useBoard";

interface Props {
  plan: Plan;
  track: Track | null;
  board: ReturnType<typeof useBoard>;
  /** The day whose picture this belongs to, and what stands left of it. */
  day: number;
  left: number;
}

/** The sheet of the block that was pressed in one day's picture. */
export function OpenedBlock({ plan, track, board, day, left }: Props) {
  const store = usePlanStore();
  const { opened, sheet, setSheet, actions } = board;
  if (!opened || sheet?.day !== day) return null;
  return (
    <BlockSheet
      block={opened}
      plan={plan}
      x={sheet.x + left}
      told={track?.blocks?.find((one) => one.key === opened.id)}
      onChange={(block) =>
        store.commit(
          withBlock(store.snapshot().draft, block),
          `retimed a ${blockFacts(block.kind).text}`,
        )
      }
      onRemove={() => actions.remove(opened)}
      onClose={() => setSheet(null)}
    />
  );
}
