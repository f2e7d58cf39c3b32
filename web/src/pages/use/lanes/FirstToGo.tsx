import { type KeyboardEvent, type PointerEvent, useState } from "react";
import type { Appliance } from "../../../api/client";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { Button } from "../../../ui/Button";
import { NumberField } from "../../../ui/fields/NumberField";
import { datumUnder, useDrag } from "../../../ui/useDrag";
import { withAppliance } from "./lanes";

type Rank = Appliance["priority"];
const RANKS: readonly { rank: Rank; text: string; note: string }[] = [
  { rank: "first", text: "Goes first", note: "switched off before anything else" },
  { rank: "wanted", text: "Goes if needed", note: "stays while it can" },
  { rank: "must", text: "Never goes", note: "runs until the box is empty" },
];
const ORDER = RANKS.map((one) => one.rank);

/** Which appliances go when the level falls: drag a name from shelf to shelf. */
export function FirstToGo() {
  const store = usePlanStore();
  const use = usePlanPart((state) => state.draft.use);
  const { shedding, appliances } = use;
  const [over, setOver] = useState<Rank | null>(null);
  const shed = (part: Partial<typeof shedding>) =>
    store.edit(
      (old) => ({
        ...old,
        use: { ...old.use, shedding: { ...old.use.shedding, ...part } },
      }),
      "changed when things are switched off",
    );
  const rank = (appliance: Appliance, priority: Rank) =>
    priority !== appliance.priority &&
    store.edit((old) => withAppliance(old, { ...appliance, priority }), `ranked ${appliance.name}`);

  const under = (event: PointerEvent<Element>) =>
    (datumUnder(event, "rank") as Rank | undefined) ?? null;
  const dragged = useDrag<Appliance, Appliance>({
    begin: (_, appliance) => appliance,
    move: (_, event) => setOver(under(event)),
    end: (appliance, event, dropped) => {
      const to = dropped ? under(event) : null;
      if (to) rank(appliance, to);
      setOver(null);
    },
  });
  function key(event: KeyboardEvent, appliance: Appliance) {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const to = ORDER[ORDER.indexOf(appliance.priority) + by];
    if (to) rank(appliance, to);
  }

  return (
    <div className="grid gap-2 sm:grid-cols-3" data-testid="first-to-go">
      {RANKS.map((shelf) => (
        <section
          key={shelf.rank}
          data-rank={shelf.rank}
          aria-label={shelf.text}
          className={`rounded-xl border-2 border-dashed p-2 ${over === shelf.rank ? "border-sun bg-day" : "border-line"}`}
        >
          <h3 className="text-base">{shelf.text}</h3>
          <p className="text-xs text-ash">{shelf.note}</p>
          <div className="my-2 flex min-h-10 flex-wrap gap-1.5">
            {appliances
              .filter((one) => one.priority === shelf.rank)
              .map((appliance) => (
                <Button
                  look="bare"
                  key={appliance.id}
                  className={`key grab ${appliance.on ? "" : "opacity-60"}`}
                  aria-label={`${appliance.name}, ${shelf.text.toLowerCase()}. Arrows left and right let it go earlier or later`}
                  onKeyDown={(event) => key(event, appliance)}
                  {...dragged(appliance)}
                >
                  {appliance.name}
                </Button>
              ))}
          </div>
          {shelf.rank !== "must" && (
            <NumberField
              label="off below"
              value={shedding[`${shelf.rank}_percent`]}
              limit={`Shedding.${shelf.rank}_percent`}
              empty="not by itself"
              onClear={() => shed({ [`${shelf.rank}_percent`]: null })}
              onCommit={(percent) => shed({ [`${shelf.rank}_percent`]: percent })}
            />
          )}
        </section>
      ))}
    </div>
  );
}
