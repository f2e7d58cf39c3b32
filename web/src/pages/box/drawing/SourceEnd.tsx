import { useSearchParams } from "react-router";
import { usePlanPart, usePlanStore, useUnit } from "../../../plan/context";
import { Figure } from "../../../plan/sums";
import { amountText } from "../../../quantities/units";
import { Button } from "../../../ui/Button";
import { Switch } from "../../../ui/fields/Switch";
import { duplicateSource, isOn, moveSource, sourcesInOrder, switchPart } from "../parts";

/** The end of every source's sheet: on or off, its place in the order, another, taking it out. */
export function SourceEnd({ id, onRemove }: { id: string; onRemove: () => void }) {
  const store = usePlanStore();
  const [, setQuery] = useSearchParams();
  const box = usePlanPart((state) => state.draft.box);
  const order = sourcesInOrder(box);
  const at = order.findIndex((source) => source.id === id);
  const source = order[at];
  if (!source) return null;
  const { name, key } = source;
  const move = (by: number) =>
    store.edit((old) => moveSource(old, id, by), `changed the order of ${name}`);

  function duplicate() {
    const made = duplicateSource(store.snapshot().draft, id);
    if (!made) return;
    store.commit(made[0], `added another ${name}`);
    setQuery({ part: made[1] }, { replace: true });
  }

  return (
    <div className="flex flex-col gap-2 border-t border-line pt-3">
      <Switch
        label="It is there"
        hint="Turn off to see the trip without it. It stays in the plan."
        checked={isOn(box, key)}
        onChange={() => store.edit((old) => switchPart(old, key), `switched ${name}`)}
      />
      <div className="flex flex-wrap items-center gap-2">
        {order.length > 1 && (
          <>
            <span className="text-sm text-ash">
              let in {at + 1}. of {order.length}
            </span>
            <Button disabled={at === 0} onClick={() => move(-1)}>
              earlier
            </Button>
            <Button disabled={at === order.length - 1} onClick={() => move(1)}>
              later
            </Button>
          </>
        )}
        <Button
          className="ml-auto"
          disabled={duplicateSource(store.snapshot().draft, id) === null}
          onClick={duplicate}
        >
          Duplicate it
        </Button>
        <Button onClick={onRemove}>Remove it</Button>
      </div>
    </div>
  );
}

/** What a source put in on the whole trip, open to its sum. */
export function SourceTaken({ id }: { id: string }) {
  const unit = useUnit();
  const found = usePlanPart((state) => state.run.total.sources).find((one) => one.key === id);
  if (!found) return <p className="text-sm text-ash">It is off: it does nothing in this plan.</p>;
  return (
    <p className="text-sm">
      On this trip it put in{" "}
      <Figure of={`source:${id}`} className="font-semibold">
        {amountText(found.taken, unit)} {unit}
      </Figure>{" "}
      of {amountText(found.offered, unit)} that it could give.
    </p>
  );
}
