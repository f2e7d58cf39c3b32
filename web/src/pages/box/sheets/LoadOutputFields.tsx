import type { LoadOutput, SunInput } from "../../../api/client";
import { usePlanState } from "../../../plan/context";
import { Button } from "../../../ui/Button";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { Switch } from "../../../ui/fields/Switch";

const SPECS: readonly Spec<LoadOutput>[] = [
  { kind: "number", key: "limit_a", text: "It gives at most" },
  { kind: "number", key: "off_v", text: "goes off below", unit: "V" },
  { kind: "number", key: "on_v", text: "comes back above", unit: "V" },
];
const FRESH: LoadOutput = { limit_a: 10, off_v: 11.4, on_v: 12.6, appliances: [] };

interface Props {
  controller: SunInput["controller"];
  onChange: (controller: SunInput["controller"], did: string) => void;
}

/** A controller's own output for loads: its limit, its switch, and what hangs on it. */
export function LoadOutputFields({ controller, onChange }: Props) {
  const { draft } = usePlanState();
  const output = controller.load_output;
  const set = (load_output: LoadOutput | null, did: string) =>
    onChange({ ...controller, load_output }, did);
  if (!output) {
    return (
      <Button
        className="self-start"
        onClick={() => set(FRESH, "uses the controller’s load output")}
      >
        Something hangs on its load output
      </Button>
    );
  }
  const suits = draft.use.appliances.filter((one) => one.supply === "12v");
  return (
    <div className="flex flex-col gap-3">
      <Fields
        model="LoadOutput"
        part={output}
        specs={SPECS}
        onChange={(next) => set(next, "changed the load output")}
      />
      {suits.map((one) => (
        <Switch
          key={one.id}
          label={`${one.name} hangs on it`}
          checked={output.appliances.includes(one.id)}
          onChange={(on) =>
            set(
              {
                ...output,
                appliances: on
                  ? [...output.appliances, one.id]
                  : output.appliances.filter((id) => id !== one.id),
              },
              `${one.name}: ${on ? "on" : "off"} the load output`,
            )
          }
        />
      ))}
      <p className="text-sm text-ash">
        It switches by the battery’s volts, so that these go off before the battery is empty. Only
        things of 12 V hang there.
      </p>
      <Button className="self-start" onClick={() => set(null, "nothing hangs on the load output")}>
        Nothing hangs on it
      </Button>
    </div>
  );
}
