import type { Battery, Plan } from "../../../../api/client";
import { OF_CHEMISTRY } from "../../../../api/limits.gen";
import { LabelReader } from "../../../../labels/LabelReader";
import { BATTERY_AGES } from "../../../../plan/batteryAges";
import { usePlanState, usePlanStore } from "../../../../plan/context";
import { KeepKey, TakeKeys } from "../../../../plan/OwnShelf";
import { useReference } from "../../../../plan/useReference";
import { weightText } from "../../../../quantities/habits";
import { spanText } from "../../../../quantities/units";
import { useHabits } from "../../../../quantities/useHabits";
import { Button } from "../../../../ui/Button";
import { Choice } from "../../../../ui/fields/Choice";
import { Fields, type Spec } from "../../../../ui/fields/Fields";
import { NumberField } from "../../../../ui/fields/NumberField";
import { SliderField } from "../../../../ui/fields/SliderField";
import { Switch } from "../../../../ui/fields/Switch";
import { More } from "../../../../ui/More";
import { BankDrawing } from "../../drawing/bank/BankDrawing";
import { CapacityBar } from "../../drawing/bank/CapacityBar";
import { withBox } from "../../parts";
import { BankWords } from "./BankWords";
import { CurveFields } from "./CurveFields";
import { DatasheetFields } from "./DatasheetFields";
import { SecondLink } from "./SecondLink";

const JOINED: readonly Spec<Battery>[] = [
  { kind: "number", key: "series", text: "In series", unit: "", hint: "adds volts" },
  { kind: "number", key: "parallel", text: "In parallel", unit: "", hint: "adds amp-hours" },
  { kind: "number", key: "battery_v", text: "One battery is" },
];
/** What a battery holds of its label by its age; unsaid, the label counts until readings tell. */
const AGES = [
  { value: "unknown", text: "not known", title: "somewhat under its label, until readings tell" },
  ...BATTERY_AGES,
  { value: "measured", text: "measured", title: "its capacity was measured; it is no label" },
] as const;
const ENDS: readonly Spec<Battery>[] = [
  {
    kind: "number",
    key: "tail_percent",
    text: "Absorption ends below",
    unit: "% of Ah",
    empty: "usual",
  },
  { kind: "number", key: "absorption_hours", text: "or after", empty: "4" },
  { kind: "number", key: "cells", text: "Cells in one battery", unit: "", empty: "usual" },
  { kind: "flag", key: "compensated", text: "Chargers follow its temperature" },
];

/** The bank: chemistry, size, how the batteries are joined, charging voltages. */
export function BatterySheet({ second = false }: { second?: boolean }) {
  const store = usePlanStore();
  const { draft, run } = usePlanState();
  const { box } = draft;
  const battery = second ? box.second?.battery : box.battery;
  const reference = useReference();
  const habits = useHabits();
  const choices = reference?.chemistries;
  const blank = reference?.fresh.datasheet;
  if (!battery) return null;
  const put = (next: Battery): Plan => {
    const now = store.snapshot().draft;
    if (!second) return withBox(now, { battery: next });
    return now.box.second ? withBox(now, { second: { ...now.box.second, battery: next } }) : now;
  };
  const set = (next: Battery, did: string) => store.commit(put(next), did);
  const kind = choices?.find((other) => other.key === battery.chemistry);

  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">{second ? "Second bank" : "Battery"}</h2>
      <TakeKeys
        kind="battery"
        onTake={(thing) => thing.battery && set(thing.battery, `took ${thing.name}`)}
      />
      {choices && (
        <Choice
          label="Chemistry"
          showLabel
          value={battery.chemistry}
          options={choices.map((other) => ({
            value: other.key,
            text: other.name,
            title: other.text,
          }))}
          // Charging voltages, cells and the sheet belong to the chemistry: another brings its own.
          onChange={(chemistry) =>
            set(
              {
                ...battery,
                chemistry,
                ...Object.fromEntries(OF_CHEMISTRY.map((name) => [name, null])),
              },
              "changed the chemistry",
            )
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
        onPreview={(capacity_ah) => store.preview(put({ ...battery, capacity_ah }))}
        onCommit={(capacity_ah) => set({ ...battery, capacity_ah }, "changed the capacity")}
      />
      <IsItWattHours
        battery={battery}
        nominalV={kind ? (kind.nominal_v * battery.battery_v) / 12 : 12}
        onChange={(capacity_ah) => set({ ...battery, capacity_ah }, "made Wh into Ah")}
      />
      {!second && (
        <>
          <Choice
            label="How old is it?"
            showLabel
            value={battery.age ?? "unknown"}
            options={AGES}
            onChange={(age) =>
              set({ ...battery, age: age === "unknown" ? null : age }, "told the battery's age")
            }
          />
          <NumberField
            label="Keep in reserve"
            value={draft.trip.floor_percent}
            limit="Trip.floor_percent"
            onCommit={(floor_percent) =>
              store.edit(
                (old) => ({ ...old, trip: { ...old.trip, floor_percent } }),
                "moved the reserve",
              )
            }
          />
          <CapacityBar />
        </>
      )}
      <LabelReader
        of="battery"
        parts={{ battery }}
        onTake={(read) => read.battery && set(read.battery, "took over a label")}
      />
      {second && <SecondLink />}
      <More
        text="How many, and how joined"
        says={`${battery.series * battery.parallel} x ${battery.battery_v} V`}
      >
        <BankDrawing battery={battery} systemV={box.system_v} />
        <Fields
          model="Battery"
          part={battery}
          specs={JOINED}
          onChange={(next) => set(next, "changed how batteries are joined")}
        />
        {battery.series * battery.parallel > 1 && (
          <Switch
            label="All of one type, size and age"
            checked={battery.alike}
            onChange={(alike) => set({ ...battery, alike }, "changed the batteries")}
          />
        )}
        {!second && (
          <NumberField
            label="The box runs at"
            value={box.system_v}
            limit="Box.system_v"
            onCommit={(system_v) =>
              store.edit((old) => withBox(old, { system_v }), "changed the system voltage")
            }
          />
        )}
      </More>
      <More
        text="Charging"
        says={`${battery.absorption_v ?? run.bank.absorption_v} V, up to ${run.bank.charge_limit_a.toFixed(0)} A`}
      >
        {!second && (
          <div className="grid grid-cols-2 gap-3">
            <NumberField
              label="Absorption"
              value={battery.absorption_v ?? run.bank.absorption_v}
              limit="Battery.absorption_v"
              onCommit={(absorption_v) => set({ ...battery, absorption_v }, "changed absorption")}
            />
            <NumberField
              label="Float"
              value={battery.float_v ?? run.bank.float_v}
              limit="Battery.float_v"
              onCommit={(float_v) => set({ ...battery, float_v }, "changed float")}
            />
          </div>
        )}
        {kind && <p className="text-ash">{kind.text}</p>}
        <Fields
          model="Battery"
          part={battery}
          specs={ENDS}
          onChange={(next) => set(next, "changed the battery")}
        />
      </More>
      {!second && (
        <More
          text="Weight and life"
          says={`${weightText(run.bank.mass_kg, habits)}, ${spanText(run.endurance.ageing.life_percent)} % a trip`}
        >
          <BankWords kind={kind?.name} neverAbove={kind?.never_above_v} />
        </More>
      )}
      <More text="Data sheet" says={battery.datasheet ? "given" : "none yet"}>
        <DatasheetFields
          battery={battery}
          onChange={(datasheet) => set({ ...battery, datasheet }, "changed the data sheet")}
        />
      </More>
      {blank && (
        <More text="Its own voltage curve" says={battery.datasheet?.rested_v ? "given" : "typical"}>
          <CurveFields
            battery={battery}
            points={battery.datasheet?.rested_v ?? null}
            onChange={(rested_v) =>
              set(
                { ...battery, datasheet: { ...(battery.datasheet ?? blank), rested_v } },
                "changed the battery’s curve",
              )
            }
          />
        </More>
      )}
      <KeepKey name={`${battery.capacity_ah} Ah ${kind?.name ?? ""}`.trim()} part={{ battery }} />
      {second && (
        <Button
          className="self-start"
          onClick={() =>
            store.edit((old) => withBox(old, { second: null }), "removed the second bank")
          }
        >
          Remove it
        </Button>
      )}
    </div>
  );
}

/** Above this one battery is rarely sold, and watt-hours are often typed in its place. */
const UNLIKELY_AH = 400;

/** The classic confusion: watt-hours typed as amp-hours. */
function IsItWattHours(props: {
  battery: Battery;
  nominalV: number;
  onChange: (ah: number) => void;
}) {
  const { battery, nominalV, onChange } = props;
  if (battery.capacity_ah < UNLIKELY_AH) return null;
  const ah = Math.round(battery.capacity_ah / nominalV);
  return (
    <p className="text-sm text-danger" role="status">
      ▲ {battery.capacity_ah} Ah in one battery is rare. If the label says Wh, that is {ah} Ah.{" "}
      <Button look="link" onClick={() => onChange(ah)}>
        Make it {ah} Ah
      </Button>
    </p>
  );
}
