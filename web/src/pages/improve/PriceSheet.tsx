import { useState } from "react";
import type { PriceTag, Weighed } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { moneyText, weightText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";
import { NumberField } from "../../ui/fields/NumberField";
import { Popover } from "../../ui/Popover";

/** What a change costs and weighs; pressed, it takes the user's own figures. */
export function PriceSheet({ change }: { change: Weighed["change"] }) {
  const store = usePlanStore();
  const tags = usePlanPart((state) => state.plan.document.assumptions.tags);
  const habits = useHabits();
  const [open, setOpen] = useState(false);
  const own = tags.find((tag) => tag.change === change.key);
  const { euro, kg } = change;
  const tag: PriceTag = own ?? {
    change: change.key,
    euro_low: euro?.low ?? 0,
    euro_high: euro?.high ?? 0,
    kg_low: kg?.low ?? 0,
    kg_high: kg?.high ?? 0,
  };
  function set(part: Partial<PriceTag>) {
    const next = { ...tag, ...part };
    store.edit(
      (old) => {
        const others = old.assumptions.tags.filter((other) => other.change !== change.key);
        return { ...old, assumptions: { ...old.assumptions, tags: [...others, next] } };
      },
      `priced: ${change.text}`.slice(0, 120),
    );
  }
  const price = euro ? moneyText(habits, euro.low, euro.high) : "free";
  const weight =
    kg && kg.high > 0 ? `, ${weightText(kg.low, habits)} to ${weightText(kg.high, habits)}` : "";
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      title={own ? "Your own price" : "A typical price; write your own"}
      trigger={
        <Button
          look="bare"
          className="figure"
          aria-label={`${price}${weight}: price of ${change.text}`}
        >
          {price}
          {weight}
        </Button>
      }
    >
      <div className="grid w-64 grid-cols-2 gap-3">
        <NumberField
          label="Price from"
          value={tag.euro_low}
          limit="PriceTag.euro_low"
          unit="€"
          onCommit={(v) => set({ euro_low: v })}
        />
        <NumberField
          label="to"
          value={tag.euro_high}
          limit="PriceTag.euro_high"
          unit="€"
          onCommit={(v) => set({ euro_high: v })}
        />
        <NumberField
          label="Weight from"
          value={tag.kg_low}
          limit="PriceTag.kg_low"
          onCommit={(v) => set({ kg_low: v })}
        />
        <NumberField
          label="to"
          value={tag.kg_high}
          limit="PriceTag.kg_high"
          onCommit={(v) => set({ kg_high: v })}
        />
      </div>
    </Popover>
  );
}
