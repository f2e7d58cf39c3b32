import type { Box, Unit, UnitInput } from "../../../api/client";
import { LabelReader } from "../../../labels/LabelReader";
import type { LabelReading } from "../../../labels/useLabel";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { Switch } from "../../../ui/fields/Switch";
import { TextField } from "../../../ui/fields/TextField";
import { sourcesInOrder } from "../parts";
import { Remove, usePart } from "./OtherSheets";

const UNIT: readonly Spec<Unit>[] = [
  { kind: "number", key: "capacity_wh", text: "On its label" },
  { kind: "number", key: "usable_percent", text: "of it comes out" },
  { kind: "number", key: "input_w", text: "All inputs together", empty: "no limit" },
  { kind: "number", key: "dc_output_w", text: "12 V and USB together", empty: "no limit" },
  { kind: "number", key: "dc_efficiency_percent", text: "12 V outlets pass" },
  { kind: "number", key: "standby_w", text: "Takes for itself" },
  {
    kind: "flag",
    key: "off_unused",
    text: "Outputs off while nothing runs",
    hint: "By hand or by itself: what it takes for itself then stops.",
  },
  {
    kind: "flag",
    key: "charge_in_use",
    text: "Charged while in use",
    hint: "Off: it is unplugged while anything runs from it.",
  },
];
const INPUT: readonly Spec<UnitInput>[] = [
  { kind: "number", key: "limit_w", text: "Takes at most", empty: "no limit" },
  { kind: "number", key: "limit_v", text: "Bears at most", empty: "unknown" },
];
const MAX_INPUTS = 6;
/** Which sources go into an input that a label names. */
const GOES_INTO: Record<string, "sun" | "mains"> = { Panels: "sun", Mains: "mains" };

/** The box with a unit's label: what has no input yet is plugged into the one it is for. */
function withUnitLabel(box: Box, read: LabelReading["parts"]): Partial<Box> {
  const unit = read.unit as Unit;
  const taken = new Set(unit.inputs.flatMap((one) => one.members));
  const inputs = unit.inputs.map((one) => {
    const group = GOES_INTO[one.name];
    if (one.members.length > 0 || !group) return one;
    return { ...one, members: box[group].map(({ id }) => id).filter((id) => !taken.has(id)) };
  });
  return {
    unit: { ...unit, inputs },
    ...(read.inverter && { inverter: read.inverter }),
    ...(read.battery && { battery: read.battery }),
  };
}

/** A ready-made unit: its figures in place of a battery that one builds, its inputs one by one. */
export function UnitSheet() {
  const { box, set } = usePart();
  const { unit } = box;
  if (!unit) return null;
  const sources = sourcesInOrder(box);
  const change = (inputs: UnitInput[], did: string) => set({ unit: { ...unit, inputs } }, did);
  const taken = new Set(unit.inputs.flatMap((one) => one.members));
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">Ready-made unit</h2>
      <Fields
        model="Unit"
        part={unit}
        specs={UNIT}
        onChange={(next) => set({ unit: next }, "changed the unit")}
      />
      <p className="text-sm text-ash">
        What its label says must go in to fill it; a tenth or so of it is lost inside and does not
        come out. Chemistry and cells are still those of the Battery sheet.
      </p>
      <LabelReader
        of="unit"
        parts={{ unit, inverter: box.inverter, battery: box.battery }}
        onTake={(read) => read.unit && set(withUnitLabel(box, read), "took over a label")}
      />
      {unit.inputs.map((one, place) => (
        <fieldset key={place} className="flex flex-col gap-2 border-t border-line pt-2">
          <legend className="sr-only">{one.name}</legend>
          <TextField
            label={`Input ${place + 1}`}
            value={one.name}
            onCommit={(name) =>
              change(unit.inputs.with(place, { ...one, name }), "named an input of the unit")
            }
          />
          <Fields
            model="UnitInput"
            part={one}
            specs={INPUT}
            onChange={(next) => change(unit.inputs.with(place, next), `changed ${one.name}`)}
          />
          {sources.map((source) => {
            const here = one.members.includes(source.id);
            if (!here && taken.has(source.id)) return null;
            return (
              <Switch
                key={source.id}
                label={`${source.name} goes in here`}
                checked={here}
                onChange={(on) =>
                  change(
                    unit.inputs.with(place, {
                      ...one,
                      members: on
                        ? [...one.members, source.id]
                        : one.members.filter((id) => id !== source.id),
                    }),
                    `plugged ${source.name} ${on ? "in" : "out"}`,
                  )
                }
              />
            );
          })}
          {one.members.length > 1 && (
            <p className="text-sm text-ash">
              One at a time: the plan reckons with whichever offers more.
            </p>
          )}
          <Remove
            text={`Remove ${one.name}`}
            onClick={() => change(unit.inputs.toSpliced(place, 1), `removed ${one.name}`)}
          />
        </fieldset>
      ))}
      {unit.inputs.length < MAX_INPUTS && (
        <Remove
          text="Add an input with a limit of its own"
          onClick={() =>
            change(
              [
                ...unit.inputs,
                {
                  name: `Input ${unit.inputs.length + 1}`,
                  members: [],
                  limit_w: null,
                  limit_v: null,
                },
              ],
              "added an input of the unit",
            )
          }
        />
      )}
      <Remove text="Remove the unit" onClick={() => set({ unit: null }, "removed the unit")} />
    </div>
  );
}
