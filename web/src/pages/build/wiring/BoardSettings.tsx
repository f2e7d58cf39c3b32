import { use } from "react";
import type { Build } from "../../../api/client";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { HabitsContext } from "../../../quantities/useHabits";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { withBuild } from "./circuits";

const SPECS: readonly Spec<Build>[] = [
  {
    kind: "choice",
    key: "cable_series",
    text: "Cable sizes",
    options: [
      { value: "metric", text: "mm²" },
      { value: "awg", text: "AWG" },
    ],
  },
  {
    kind: "number",
    key: "ambient_c",
    text: "Air about the cables",
    hint: "above 30 °C a cable bears less",
  },
  {
    kind: "number",
    key: "main_fuse_mm",
    text: "Main fuse from the positive post",
    hint: "along the cable; within a hand’s breadth, 180 mm",
  },
  { kind: "flag", key: "shunt", text: "A shunt counts in and out" },
  {
    kind: "flag",
    key: "voltmeter",
    text: "Something shows the battery’s volts",
    hint: "a meter, a charger’s display, the battery’s own app",
  },
  { kind: "flag", key: "loose_key", text: "The isolator’s key comes off" },
];

/** What holds for all circuits. */
export function BoardSettings({ shortA }: { shortA: number }) {
  const store = usePlanStore();
  const build = usePlanPart((state) => state.draft.build);
  const { habits, setHabits } = use(HabitsContext);
  // One system for one reader: who buys AWG is told AWG everywhere, and the other way round.
  const awg = habits.cable === "AWG" || build.cable_series === "awg";
  function change(next: Build, text: string) {
    const cable = next.cable_series === "awg" ? "AWG" : "mm2";
    if (cable !== habits.cable) setHabits({ ...habits, cable });
    store.edit((plan) => withBuild(plan, next), text.toLowerCase());
  }
  return (
    <section className="plate px-4 py-3" aria-label="All circuits together">
      <Fields
        model="Build"
        part={{ ...build, cable_series: awg ? "awg" : "metric" }}
        specs={SPECS}
        onChange={change}
      />
      <p className="mt-2 text-sm text-ash">
        A dead short at the posts gives about {Math.round(shortA).toLocaleString("en-GB")} A.
      </p>
    </section>
  );
}
