import { useBench, useBenchPart } from "../../app/context";
import { moveSource, sourcesInOrder } from "./parts";

/** The end of every source's sheet: its place in the order, and taking it out. */
export function SourceEnd({ id, onRemove }: { id: string; onRemove: () => void }) {
  const bench = useBench();
  const box = useBenchPart((state) => state.draft.box);
  const order = sourcesInOrder(box);
  const at = order.findIndex((source) => source.id === id);
  const name = order[at]?.name ?? "";
  const move = (by: number) =>
    bench.edit((old) => moveSource(old, id, by), `changed the order of ${name}`);
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-line pt-3">
      {order.length > 1 && (
        <>
          <span className="text-sm text-ash">
            let in {at + 1}. of {order.length}
          </span>
          <button type="button" className="key" disabled={at === 0} onClick={() => move(-1)}>
            earlier
          </button>
          <button
            type="button"
            className="key"
            disabled={at === order.length - 1}
            onClick={() => move(1)}
          >
            later
          </button>
        </>
      )}
      <button type="button" className="key ml-auto" onClick={onRemove}>
        Remove it
      </button>
    </div>
  );
}
