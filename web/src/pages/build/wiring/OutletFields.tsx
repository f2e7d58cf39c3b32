import type { BuildReport, CircuitReport, Plan } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { NumberField } from "../../../ui/fields/NumberField";
import { Select } from "../../../ui/fields/Select";
import { TextField } from "../../../ui/fields/TextField";
import { ALONE, isOutlet, plugged, removeOutlet, TOOL, withOutlet } from "./outlets";

interface Props {
  circuit: CircuitReport;
  build: BuildReport;
  onChange: (change: (plan: Plan) => Plan, did: string) => void;
  onChoose: (key: string) => void;
}

/** What is plugged in at an outlet, and what is foreseen besides. */
export function OutletFields({ circuit, build, onChange, onChoose }: Props) {
  const others = build.circuits.filter(
    (one) => isOutlet(one) && one.role === circuit.role && one.key !== circuit.key,
  );
  const change = (part: Parameters<typeof withOutlet>[2], did: string) =>
    onChange((plan) => withOutlet(plan, circuit, part), `circuit ${circuit.number}: ${did}`);
  return (
    <fieldset className="grid gap-3 rounded-lg bg-hover p-3">
      <legend className="sr-only">This outlet</legend>
      {circuit.holds.map((held) => (
        <Select
          key={held.key}
          label={`Plug of ${held.text}`}
          value={circuit.key}
          options={[
            { value: circuit.key, text: "here" },
            ...others.map((one) => ({ value: one.key, text: `at ${one.number}, ${one.name}` })),
            ...(circuit.holds.length > 1
              ? [{ value: ALONE, text: "at an outlet of its own" }]
              : []),
            ...(circuit.own ? [{ value: TOOL, text: "where the tool puts it" }] : []),
          ]}
          onChange={(target) => {
            onChange(
              (plan) => plugged(plan, build, held, target),
              `${held.text}: plugged in elsewhere`,
            );
            // An outlet of the tool's goes with its last appliance: go along.
            if (circuit.holds.length === 1 && !circuit.own) onChoose(target);
          }}
        />
      ))}
      <TextField
        label="Outlet’s name"
        value={circuit.name}
        onCommit={(name) => change({ name }, "name")}
      />
      <NumberField
        label="Foreseen besides"
        value={circuit.spare_a}
        limit="Outlet.spare_a"
        hint="for what the plan does not list: wired and fused for, not counted as use"
        onCommit={(spare_a) => change({ spare_a }, "what is foreseen")}
      />
      {circuit.own && (
        <Button
          className="justify-self-start"
          onClick={() =>
            onChange(
              (plan) => removeOutlet(plan, circuit.key),
              `circuit ${circuit.number}: outlet left to the tool`,
            )
          }
        >
          {circuit.holds.length > 0 ? "Leave this outlet to the tool" : "Remove this outlet"}
        </Button>
      )}
    </fieldset>
  );
}
