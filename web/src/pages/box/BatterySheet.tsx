import { useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import { useBench, useBenchState, useUnit } from "../../app/context";
import { amountText } from "../../quantities/units";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { SliderField } from "../../ui/SliderField";
import { withBox } from "./parts";

type Battery = Plan["box"]["battery"];

/** The bank: chemistry, size, how the batteries are joined, charging voltages. */
export function BatterySheet() {
  const bench = useBench();
  const unit = useUnit();
  const { draft, run } = useBenchState();
  const { battery } = draft.box;
  const { bank } = run;
  const choices = useQuery({
    queryKey: ["reference"],
    queryFn: () => answer(client.GET("/api/reference")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const changed = (part: Partial<Battery>): Plan =>
    withBox(bench.snapshot().draft, {
      battery: { ...bench.snapshot().draft.box.battery, ...part },
    });
  const set = (part: Partial<Battery>, did: string) => bench.commit(changed(part), did);
  const kind = choices.data?.chemistries.find((other) => other.key === battery.chemistry);
  const count = battery.series * battery.parallel;

  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">Battery</h2>
      <UsableBar />
      {choices.data && (
        <Choice
          label="Chemistry"
          showLabel
          value={battery.chemistry}
          options={choices.data.chemistries.map((other) => ({
            value: other.key,
            says: other.name,
          }))}
          // Charging voltages belong to the chemistry: another one brings its own.
          onChange={(chemistry) =>
            set({ chemistry, absorption_v: null, float_v: null }, "changed the chemistry")
          }
        />
      )}
      <SliderField
        label="Capacity of one battery"
        value={battery.capacity_ah}
        limit="Battery.capacity_ah"
        from={10}
        to={300}
        step={5}
        onPreview={(capacity_ah) => bench.preview(changed({ capacity_ah }))}
        onCommit={(capacity_ah) => set({ capacity_ah }, "changed the capacity")}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="In series"
          value={battery.series}
          limit="Battery.series"
          unit=""
          hint="adds volts"
          onCommit={(series) => set({ series }, "changed series")}
        />
        <NumberField
          label="In parallel"
          value={battery.parallel}
          limit="Battery.parallel"
          unit=""
          hint="adds amp-hours"
          onCommit={(parallel) => set({ parallel }, "changed parallel")}
        />
        <NumberField
          label="One battery is"
          value={battery.battery_v}
          limit="Battery.battery_v"
          onCommit={(battery_v) => set({ battery_v }, "changed the battery voltage")}
        />
        <NumberField
          label="The box runs at"
          value={draft.box.system_v}
          limit="Box.system_v"
          onCommit={(system_v) =>
            bench.edit((old) => withBox(old, { system_v }), "changed the system voltage")
          }
        />
        <NumberField
          label="Absorption"
          value={battery.absorption_v ?? bank.absorption_v}
          limit="Battery.absorption_v"
          onCommit={(absorption_v) => set({ absorption_v }, "changed absorption")}
        />
        <NumberField
          label="Float"
          value={battery.float_v ?? bank.float_v}
          limit="Battery.float_v"
          onCommit={(float_v) => set({ float_v }, "changed float")}
        />
      </div>
      <p className="text-sm text-ash">
        {count > 1 ? `${count} batteries make ` : "This is "}
        {amountText(bank.nominal, "Ah")} Ah at {draft.box.system_v} V,{" "}
        {amountText(bank.nominal, "Wh")} Wh. It takes up to {bank.charge_limit_a.toFixed(0)} A of
        charge.
        {kind &&
          ` For a long life keep ${(100 - kind.usable_percent).toFixed(0)} % in a ${kind.name}; never charge it above ${kind.never_above_v} V.`}
      </p>
      {battery.chemistry === "agm" && (
        <p className="text-sm text-ash">
          {amountText(bank.usable, unit)} {unit} lie above your floor. Lead charges slowly near
          full: the last fifth takes hours whatever the charger.
        </p>
      )}
    </div>
  );
}

/** Nameplate as one bar: what you use, and what the floor keeps back. */
function UsableBar() {
  const unit = useUnit();
  const { run, draft } = useBenchState();
  const floor = draft.trip.floor_percent;
  const { bank } = run;
  return (
    <div>
      <div className="flex h-7 overflow-hidden rounded-md border-2 border-rim">
        <div
          className="bg-level-tint px-2 text-sm leading-6 whitespace-nowrap"
          style={{ width: `${100 - floor}%` }}
        >
          <strong>
            {amountText(bank.usable, unit)} {unit}
          </strong>{" "}
          usable
        </div>
        <svg className="h-full flex-1" aria-hidden="true">
          <rect width="100%" height="100%" fill="url(#pat-below)" fillOpacity=".45" />
        </svg>
      </div>
      <p className="mt-0.5 flex justify-between text-sm text-ash">
        <span>
          {amountText(bank.nominal, unit)} {unit} on the label
        </span>
        <span>floor {floor} %</span>
      </p>
    </div>
  );
}
