import type { Vehicle } from "../../../api/client";
import { LabelReader } from "../../../labels/LabelReader";
import { usePlanState, usePlanStore } from "../../../plan/context";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { TextField } from "../../../ui/fields/TextField";
import { More } from "../../../ui/More";
import { SourceEnd, SourceTaken } from "../drawing/SourceEnd";
import { StageHours } from "../drawing/StageHours";
import { withoutSource, withSource } from "../parts";
import { ProfileFields } from "./battery/ProfileFields";
import { LimitNote } from "./LimitNote";

const KIND: Spec<Vehicle> = {
  kind: "choice",
  key: "kind",
  text: "It is",
  options: [
    { value: "dcdc", text: "DC-DC charger" },
    { value: "relay", text: "relay", title: "a wire that a voltage closes" },
    { value: "socket", text: "12 V socket", title: "a charger behind the vehicle’s own fuse" },
  ],
};
const CHARGER: readonly Spec<Vehicle>[] = [
  { kind: "slider", key: "limit_a", text: "Output limit", from: 2, to: 80, step: 1 },
  { kind: "number", key: "efficiency_percent", text: "Efficiency" },
  { kind: "number", key: "fuse_a", text: "Input fuse", empty: "none" },
  { kind: "flag", key: "half_current", text: "Set to half current" },
];
const CHARGER_MORE: readonly Spec<Vehicle>[] = [
  {
    kind: "flag",
    key: "ignition",
    text: "It has an ignition wire",
    hint: "Without one it senses the voltage, and a smart alternator may never start it.",
  },
  { kind: "number", key: "cut_in_v", text: "Starts at" },
  { kind: "number", key: "cut_out_v", text: "Lets go below" },
  { kind: "number", key: "delay_min", text: "Waits after start" },
  { kind: "number", key: "hot_from_c", text: "Gives less above", unit: "°C" },
  { kind: "flag", key: "noisy", text: "It makes radio noise" },
];
const RELAY: readonly Spec<Vehicle>[] = [
  { kind: "number", key: "fuse_a", text: "Fuse", empty: "none" },
  { kind: "number", key: "delay_min", text: "Waits after start" },
  {
    kind: "flag",
    key: "forced",
    text: "Held closed by a switch",
    hint: "Then current may also flow back into the vehicle.",
  },
];
type Alternator = Vehicle["alternator"];
const ALTERNATOR: readonly Spec<Alternator>[] = [
  { kind: "number", key: "rated_a", text: "Rating" },
  { kind: "number", key: "own_loads_a", text: "The vehicle takes" },
  { kind: "number", key: "idle_percent", text: "At idle it gives" },
  { kind: "number", key: "volts", text: "It holds" },
  {
    kind: "flag",
    key: "smart",
    text: "A smart alternator",
    hint: "It lets its voltage fall once the starter battery is full.",
  },
];
const SMART: readonly Spec<Alternator>[] = [
  { kind: "number", key: "smart_v", text: "It falls to" },
  { kind: "number", key: "smart_after_min", text: "after" },
];
const FEED: readonly Spec<Vehicle["feed"]>[] = [
  { kind: "number", key: "length_m", text: "Cable, one way" },
  { kind: "number", key: "area_mm2", text: "Copper", unit: "mm²" },
  { kind: "number", key: "connectors_mohm", text: "Connectors", unit: "mΩ" },
];

/** What charges from the vehicle: the charger, the cable that feeds it, the alternator. */
export function VehicleSheet({ vehicle }: { vehicle: Vehicle }) {
  const store = usePlanStore();
  const { run } = usePlanState();
  const { bank } = run;
  const changed = (next: Vehicle) => withSource(store.snapshot().draft, "vehicle", next);
  const set = (next: Vehicle) => store.commit(changed(next), `changed ${vehicle.name}`);
  const relay = vehicle.kind === "relay";
  const starved = run.endurance.chargers.find((other) => other.key === vehicle.id)?.starved_h ?? 0;
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">From the vehicle</h2>
      <LimitNote limits={run.limits} part={vehicle.id} />
      <SourceTaken id={vehicle.id} />
      <TextField label="Name" value={vehicle.name} onCommit={(name) => set({ ...vehicle, name })} />
      <Fields
        model="Vehicle"
        part={vehicle}
        specs={[KIND, ...(relay ? RELAY : CHARGER)]}
        onChange={set}
        onPreview={(next) => store.preview(changed(next))}
      />
      {!relay && (
        <LabelReader
          of="dcdc"
          parts={{ dcdc: vehicle }}
          onTake={(read) => read.dcdc && set({ ...read.dcdc, id: vehicle.id })}
        />
      )}
      <p className="text-sm text-ash">{WORDS[vehicle.kind]}</p>
      {starved > 0.05 && (
        <p className="text-sm text-danger">
          ▲ For {starved.toFixed(1)} h its input is held down by the cable, the fuse or the
          alternator.
        </p>
      )}
      <More
        text="Cable and alternator"
        says={`${vehicle.feed.length_m} m, ${vehicle.alternator.rated_a} A`}
      >
        <Fields
          model="Feed"
          part={vehicle.feed}
          specs={FEED}
          onChange={(feed) => set({ ...vehicle, feed })}
        />
        <Fields
          model="Alternator"
          part={vehicle.alternator}
          specs={vehicle.alternator.smart ? [...ALTERNATOR, ...SMART] : ALTERNATOR}
          onChange={(alternator) => set({ ...vehicle, alternator })}
        />
      </More>
      {!relay && (
        <More text="Starting, heat, voltages">
          <Fields model="Vehicle" part={vehicle} specs={CHARGER_MORE} onChange={set} />
          <ProfileFields
            profile={vehicle.profile}
            absorption={bank.absorption_v}
            float={bank.float_v}
            onChange={(profile) => set({ ...vehicle, profile })}
          />
        </More>
      )}
      <StageHours id={vehicle.id} />
      <SourceEnd
        id={vehicle.id}
        onRemove={() =>
          store.edit((old) => withoutSource(old, vehicle.id), `removed ${vehicle.name}`)
        }
      />
    </div>
  );
}

const WORDS = {
  dcdc: "It works in drive hours. Half an alternator’s rating is about what it bears for long.",
  relay:
    "It closes above 13.3 V. What flows is what voltage and wire allow; with a smart alternator it opens when the voltage falls.",
  socket:
    "A socket is fused for about 10 A: slow, and only while its fuse and plug stay cool. Check both.",
} as const;
