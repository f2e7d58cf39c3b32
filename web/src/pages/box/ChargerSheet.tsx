import type { Charger, Inverter } from "../../api/client";
import { useBench, useBenchState } from "../../app/context";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { SliderField } from "../../ui/SliderField";
import { LimitNote } from "./LimitNote";
import { withBox } from "./parts";

/** A DC-DC or mains charger. */
export function ChargerSheet({ part, name }: { part: "dcdc" | "mains"; name: string }) {
  const bench = useBench();
  const { draft, run } = useBenchState();
  const charger = draft.box[part];
  if (!charger) return null;
  const changed = (next: Partial<Charger>) =>
    withBox(bench.snapshot().draft, { [part]: { ...charger, ...next } });
  const set = (next: Partial<Charger>) => bench.commit(changed(next), `changed the ${name}`);
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">{name}</h2>
      <LimitNote limits={run.limits} part={part === "dcdc" ? "vehicle" : "mains"} />
      <SliderField
        label="Output limit"
        value={charger.limit_a}
        limit="Charger.limit_a"
        from={2}
        to={80}
        step={1}
        onPreview={(limit_a) => bench.preview(changed({ limit_a }))}
        onCommit={(limit_a) => set({ limit_a })}
      />
      <NumberField
        label="Efficiency"
        value={charger.efficiency_percent}
        limit="Charger.efficiency_percent"
        onCommit={(efficiency_percent) => set({ efficiency_percent })}
      />
      <p className="text-sm text-ash">
        {part === "dcdc"
          ? "It works in drive hours and draws about a tenth more from the alternator than it gives."
          : "It works in hook-up hours. Mains wiring is for licensed people; keep the charger dry and in free air."}
      </p>
      <button
        type="button"
        className="key self-start"
        onClick={() => bench.edit((old) => withBox(old, { [part]: null }), `removed the ${name}`)}
      >
        Remove it
      </button>
    </div>
  );
}

/** The inverter and what it costs to leave it on. */
export function InverterSheet() {
  const bench = useBench();
  const { draft } = useBenchState();
  const { inverter } = draft.box;
  if (!inverter) return null;
  const set = (next: Partial<Inverter>) =>
    bench.edit(
      (old) => withBox(old, { inverter: { ...inverter, ...next } }),
      "changed the inverter",
    );
  const hangs = draft.use.appliances.filter((a) => a.supply === "inverter");
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">Inverter</h2>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Rating"
          value={inverter.rating_w}
          limit="Inverter.rating_w"
          onCommit={(rating_w) => set({ rating_w })}
        />
        <NumberField
          label="Draws by itself"
          value={inverter.idle_w}
          limit="Inverter.idle_w"
          onCommit={(idle_w) => set({ idle_w })}
        />
        <NumberField
          label="Efficiency"
          value={inverter.efficiency_percent}
          limit="Inverter.efficiency_percent"
          onCommit={(efficiency_percent) => set({ efficiency_percent })}
        />
      </div>
      <Choice
        label="Switched on"
        showLabel
        value={inverter.switched}
        options={[
          { value: "with_loads", says: "with its appliances" },
          { value: "always", says: "day and night" },
        ]}
        onChange={(switched) => set({ switched })}
      />
      <p className="text-sm text-ash">
        {hangs.length > 0
          ? `On it: ${hangs.map((a) => a.name).join(", ")}.`
          : "Nothing hangs on it."}{" "}
        An inverter makes mains voltage: it can kill.
      </p>
      <button
        type="button"
        className="key self-start"
        onClick={() =>
          bench.edit((old) => withBox(old, { inverter: null }), "removed the inverter")
        }
      >
        Remove it
      </button>
    </div>
  );
}
