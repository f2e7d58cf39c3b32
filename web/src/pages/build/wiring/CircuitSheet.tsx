import type { BuildReport, CircuitReport, Plan } from "../../../api/client";
import { shortFigure } from "../../../quantities/units";
import { Cautions } from "../../../shell/header/Caution";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import { NumberField } from "../../../ui/fields/NumberField";
import { Select } from "../../../ui/fields/Select";
import { Switch } from "../../../ui/fields/Switch";
import { More } from "../../../ui/More";
import { type Chosen, chosenBy, withChoice, withoutChoice } from "./circuits";
import { OutletFields } from "./OutletFields";
import { isOutlet } from "./outlets";

interface Props {
  circuit: CircuitReport;
  build: BuildReport;
  onChange: (change: (plan: Plan) => Plan, did: string) => void;
  onChoose: (key: string) => void;
}

const TOOL = "tool";

/** One circuit: its figures with their sums, and every choice, the tool's or yours. */
export function CircuitSheet({ circuit, build, onChange, onChoose }: Props) {
  const set = (part: Chosen, did: string) =>
    onChange((plan) => withChoice(plan, circuit, part), `circuit ${circuit.number}: ${did}`);
  const family = build.families.find((one) => one.key === circuit.family);
  const cables = build.sizes.map((size) => ({
    value: String(size.area_mm2),
    text: size.text,
  }));
  const runBy = chosenBy(circuit, "run_m");
  const cableBy = chosenBy(circuit, "cable_mm2");
  const stated = circuit.role === "feed" || circuit.stated.includes("cable_mm2");
  const own = circuit.fuse_with === null;
  return (
    <>
      <div>
        <h2 className="text-lg">
          {circuit.number} · {circuit.name}
        </h2>
        <p className="text-sm text-ash">
          {shortFigure(circuit.continuous_a)} A for hours, {shortFigure(circuit.peak_a)} A for a
          moment; {shortFigure(circuit.seen_a)} A at most on this trip.
        </p>
        {circuit.holds.length > 0 && !isOutlet(circuit) && (
          <p className="text-sm text-ash">
            On it: {circuit.holds.map((one) => one.text).join(", ")}.
          </p>
        )}
        <p className="text-sm">{circuit.cost}</p>
      </div>
      {isOutlet(circuit) && (
        <OutletFields circuit={circuit} build={build} onChange={onChange} onChoose={onChoose} />
      )}
      <div className="grid grid-cols-2 items-start gap-3">
        <NumberField
          label="Run, one way"
          value={runBy === "tool" ? null : circuit.run_m}
          limit="CircuitChoice.run_m"
          empty={`${shortFigure(circuit.run_m)}, a guess`}
          hint={runBy === "box" ? "as the Box page states" : "measure it with a string"}
          onCommit={(run_m) => set({ run_m }, "length")}
          onClear={runBy === "you" ? () => set({ run_m: null }, "length guessed") : undefined}
        />
        <Select
          label={cableBy === "box" ? "Cable, as on Box" : "Cable"}
          value={cableBy === "tool" ? TOOL : nearest(circuit, build)}
          options={[
            ...(stated ? [] : [{ value: TOOL, text: `tool: ${circuit.cable}` }]),
            ...cables,
          ]}
          onChange={(next) => set({ cable_mm2: next === TOOL ? null : Number(next) }, "cable")}
        />
        <Select
          label="Protection"
          value={circuit.fixed.includes("protection") ? circuit.protection : TOOL}
          options={[
            { value: TOOL, text: `tool: ${circuit.protection}` },
            { value: "fuse", text: "fuse" },
            { value: "breaker", text: "breaker" },
            { value: "none", text: "nothing" },
          ]}
          onChange={(next) =>
            set(
              { protection: next === TOOL ? null : next, family: null, fuse_a: null },
              "protection",
            )
          }
        />
        {circuit.protection !== "none" && own && (
          <Select
            label="Rating"
            value={circuit.fixed.includes("fuse_a") ? String(circuit.fuse_a) : TOOL}
            options={[
              {
                value: TOOL,
                text: circuit.fuse_a ? `tool: ${circuit.fuse_a} A` : "tool: none suits",
              },
              ...(family?.sizes_a.map((size) => ({ value: String(size), text: `${size} A` })) ??
                []),
            ]}
            onChange={(next) => set({ fuse_a: next === TOOL ? null : Number(next) }, "fuse")}
          />
        )}
      </div>
      {circuit.protection === "fuse" && own && (
        <Select
          label="Kind of fuse"
          value={circuit.fixed.includes("family") ? String(circuit.family) : TOOL}
          options={[
            { value: TOOL, text: `tool: ${family?.text ?? "none suits"}` },
            ...build.families
              .filter((one) => one.key !== "breaker")
              .map((one) => ({
                value: one.key as string,
                text: `${one.text}, breaks ${one.breaks_a / 1000} kA`,
              })),
          ]}
          onChange={(next) =>
            set({ family: next === TOOL ? null : (next as Chosen["family"]) }, "kind of fuse")
          }
        />
      )}
      <Select
        label="Connector"
        value={circuit.fixed.includes("connector") ? circuit.connector : TOOL}
        options={[
          { value: TOOL, text: `tool: ${circuit.connector_text}` },
          ...build.connectors.map((one) => ({ value: one.key, text: one.text })),
        ]}
        onChange={(next) =>
          set({ connector: next === TOOL ? null : (next as Chosen["connector"]) }, "connector")
        }
      />
      {circuit.role !== "battery" && (
        <Choice
          label="Its negative goes to the shunt’s"
          showLabel
          value={circuit.returns}
          options={[
            { value: "load_side", text: "load side" },
            { value: "battery_side", text: "battery side" },
          ]}
          onChange={(next) => set({ returns: next === "load_side" ? null : next }, "negative")}
        />
      )}
      <Switch
        label="In a bundle"
        hint="with three or more other loaded cables: it bears 0.7 of its current"
        checked={circuit.bundled}
        onChange={(on) => set({ bundled: on || null }, "bundle")}
      />
      <Switch
        label="Part of it in an engine bay"
        checked={circuit.engine_bay}
        onChange={(on) => set({ engine_bay: on }, "place")}
      />
      {circuit.role === "panel" && (
        <Switch
          label="Can be disconnected by hand"
          hint="off: solar, then battery; on: battery, then solar"
          checked={circuit.disconnect}
          onChange={(on) => set({ disconnect: on ? null : false }, "disconnect")}
        />
      )}
      {circuit.strings > 1 && (
        <Switch
          label={`A fuse in each of the ${circuit.strings} strings`}
          hint={circuit.string_fuse_a ? `${circuit.string_fuse_a} A, made for panels` : undefined}
          checked={circuit.string_fuse_a !== null}
          onChange={(string_fuses) => set({ string_fuses }, "fuses in the strings")}
        />
      )}
      <More text="Shares a fuse">
        <Select
          label="Behind the fuse of"
          value={circuit.fuse_with ?? TOOL}
          options={[
            { value: TOOL, text: "a fuse of its own" },
            ...build.circuits
              .filter((one) => one.key !== circuit.key && one.fuse_with === null)
              .map((one) => ({ value: one.key, text: `${one.number}, ${one.name}` })),
          ]}
          onChange={(next) => set({ fuse_with: next === TOOL ? null : next }, "shared fuse")}
        />
      </More>
      <More text="How it was made">
        <ul className="list-disc pl-5 text-sm" data-testid="how">
          {circuit.how.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </More>
      {circuit.fixed.length > 0 && (
        <Button
          className="self-start"
          onClick={() =>
            onChange(
              (plan) => withoutChoice(plan, circuit.key),
              `circuit ${circuit.number}: left to the tool`,
            )
          }
        >
          Let the tool choose all of it
        </Button>
      )}
      <Cautions about={aboutOf(circuit)} />
      <p className="text-sm text-ash">Local codes and licensed practice come first.</p>
    </>
  );
}

/** The size of the list that the circuit has; one that is in no list is shown as it is. */
function nearest(circuit: CircuitReport, build: BuildReport): string {
  const area = circuit.cable_mm2 ?? 0;
  const size = build.sizes.find((one) => Math.abs(one.area_mm2 - area) < 0.005 * area);
  return String(size?.area_mm2 ?? area);
}

function aboutOf(circuit: CircuitReport): string[] {
  const group = circuit.part.split(":")[0] ?? "";
  return group === "appliance" ? ["battery"] : [group, "battery"];
}
