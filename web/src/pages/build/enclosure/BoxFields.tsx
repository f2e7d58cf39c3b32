import type { Build, BuildReport } from "../../../api/client";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { shortFigure } from "../../../quantities/units";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { Switch } from "../../../ui/fields/Switch";
import { withBuild } from "../wiring/circuits";

type Enclosure = Build["enclosure"];

/** The box or case; a side left empty is the tool's proposal. */
export function BoxFields({ enclosure }: { enclosure: BuildReport["enclosure"] }) {
  const store = usePlanStore();
  const said = usePlanPart((state) => state.draft.build.enclosure);
  const side = (key: "length_mm" | "width_mm" | "height_mm", text: string): Spec<Enclosure> => ({
    kind: "number",
    key,
    text,
    empty: `${shortFigure(enclosure[key])}, proposed`,
  });
  const keep = (next: Enclosure, did: string) =>
    store.edit((plan) => withBuild(plan, { enclosure: next }), did);
  return (
    <>
      <Fields<Enclosure>
        model="Enclosure"
        part={said}
        specs={[
          side("length_mm", "Inner length"),
          side("width_mm", "Inner width"),
          side("height_mm", "Inner height"),
          { kind: "number", key: "wall_mm", text: "Wall" },
          {
            kind: "number",
            key: "empty_kg",
            text: "Weight, empty",
            empty: `${shortFigure(enclosure.empty_kg)}?`,
          },
          { kind: "choice", key: "material", text: "Made of", options: MATERIALS },
        ]}
        onChange={(next) => keep(next, "box or case")}
      />
      <Switch
        label="It has the vents that are proposed"
        hint="Without them it counts as closed."
        checked={said.vented}
        onChange={(vented) => keep({ ...said, vented }, "vents of the box")}
      />
      <Switch
        label="The battery stands in a box of its own"
        hint="For cells that gas, or where the whole is too heavy to lift."
        checked={said.battery_apart}
        onChange={(battery_apart) => keep({ ...said, battery_apart }, "a box for the battery")}
      />
      {said.material === "metal" && (
        <Switch
          label="Every cable passes the metal in a grommet or a gland"
          checked={said.grommets}
          onChange={(grommets) => keep({ ...said, grommets }, "grommets of the box")}
        />
      )}
    </>
  );
}

const MATERIALS = ["wood", "plastic", "metal"].map((value) => ({ value, text: value }));
