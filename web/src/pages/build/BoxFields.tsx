import type { Build, BuildReport } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { shortFigure } from "../../quantities/units";
import { Fields, type Spec } from "../../ui/Fields";
import { withBuild } from "./circuits";

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
  return (
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
      onChange={(next) => store.edit((plan) => withBuild(plan, { enclosure: next }), "box or case")}
    />
  );
}

const MATERIALS = ["wood", "plastic", "metal"].map((value) => ({ value, text: value }));
