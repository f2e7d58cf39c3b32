import type { Block, BlockTold } from "../../../../api/client";
import { wentWords } from "../../../../plan/howWent";
import { Ticks } from "../../../../plan/Ticks";
import { useTelling } from "../../../../plan/useTelling";
import { blockFacts } from "./blocks";

interface Props {
  block: Block;
  told: BlockTold;
}

/** How a block of the plan went, said on its own sheet, changed and cleared there. */
export function HowItWent({ block, told }: Props) {
  const { log, clear, trouble } = useTelling();
  const text = `${blockFacts(block.kind).text}, ${block.start} to ${block.end}`;
  const went = wentWords(told);
  return (
    <section className="mt-3 border-t border-line pt-3" aria-label="How it went">
      <p className="mb-2 font-semibold" data-testid="went">
        {went ? `How it went: ${went}` : "Still ahead."}
      </p>
      <div className="flex flex-wrap gap-2">
        <Ticks
          thing={{ ...told, kind: block.kind, appliance: null, text }}
          onLog={log}
          onClear={clear}
          notAhead="It will not be"
        />
      </div>
      {trouble && (
        <p role="alert" className="mt-2 text-danger">
          {trouble}
        </p>
      )}
    </section>
  );
}
