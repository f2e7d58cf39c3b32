import type { SunInput } from "../../../api/client";
import { LabelReader } from "../../../labels/LabelReader";
import { usePlanState, usePlanStore } from "../../../plan/context";
import { useReference } from "../../../plan/useReference";
import { Button } from "../../../ui/Button";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { TextField } from "../../../ui/fields/TextField";
import { More } from "../../../ui/More";
import { SourceEnd, SourceTaken } from "../drawing/SourceEnd";
import { StageHours } from "../drawing/StageHours";
import { addPanel, duplicatePanel, replaced, withoutSource, withSource } from "../parts";
import { ProfileFields } from "./battery/ProfileFields";
import { LimitNote } from "./LimitNote";
import { LoadOutputFields } from "./LoadOutputFields";
import { PanelFields } from "./PanelFields";
import { ShadeFields } from "./ShadeFields";

type Controller = SunInput["controller"];
const CONTROLLER: readonly Spec<Controller>[] = [
  {
    kind: "choice",
    key: "kind",
    text: "Controller",
    options: [
      { value: "tracking", text: "tracking", title: "finds the panel’s best power" },
      { value: "pwm", text: "PWM", title: "the panel works at the battery’s voltage" },
      { value: "none", text: "none", title: "the panel goes straight to the battery" },
    ],
  },
  { kind: "slider", key: "limit_a", text: "Controller’s output limit", from: 1, to: 40, step: 1 },
];
const CONTROLLER_MORE: readonly Spec<Controller>[] = [
  { kind: "number", key: "efficiency_percent", text: "Efficiency" },
  { kind: "number", key: "own_w", text: "Draws by itself" },
  { kind: "number", key: "input_limit_w", text: "Most input power", empty: "no limit" },
  { kind: "number", key: "input_limit_v", text: "Most input voltage", empty: "unknown" },
  { kind: "number", key: "headroom_v", text: "Needs above the battery" },
];
const ARRAY: readonly Spec<SunInput>[] = [
  { kind: "number", key: "series", text: "Panels in series", unit: "" },
  { kind: "number", key: "cable_m", text: "Cable, one way", empty: "not counted" },
  { kind: "number", key: "cable_mm2", text: "its copper", unit: "mm²" },
  { kind: "number", key: "dirt_percent", text: "Dirt takes" },
  { kind: "flag", key: "noisy", text: "The controller makes radio noise" },
];

/** Panels on one controller. */
export function SunSheet({ sun }: { sun: SunInput }) {
  const store = usePlanStore();
  const { run } = usePlanState();
  const fresh = useReference()?.fresh;
  const changed = (part: Partial<SunInput>) =>
    withSource(store.snapshot().draft, "sun", { ...sun, ...part });
  const set = (part: Partial<SunInput>, did: string) => store.commit(changed(part), did);
  const volts = run.endurance.chargers.find((other) => other.key === sun.id);
  const most = sun.controller.input_limit_v;

  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">Panels and controller</h2>
      <LimitNote limits={run.limits} part={sun.id} />
      <SourceTaken id={sun.id} />
      <TextField
        label="Name"
        value={sun.name}
        onCommit={(name) => set({ name }, "renamed panels")}
      />
      <Fields
        model="Controller"
        part={sun.controller}
        specs={CONTROLLER}
        onChange={(controller) => set({ controller }, "changed the controller")}
        onPreview={(controller) => store.preview(changed({ controller }))}
      />
      <LabelReader
        of="controller"
        parts={{ controller: sun.controller }}
        onTake={(read) =>
          read.controller && set({ controller: read.controller }, "took over a label")
        }
      />
      {volts?.cold_voc_v != null && volts.hot_vmp_v != null && (
        <p className="text-sm text-ash">
          A string shows up to {volts.cold_voc_v.toFixed(1)} V open in the coldest air that the
          place has in this season, and works at {volts.hot_vmp_v.toFixed(1)} V when hottest.
          {most != null && volts.cold_voc_v > most && (
            <strong className="text-danger">
              {" "}
              ▲ That is above the controller’s {most} V: it can be destroyed.
            </strong>
          )}
        </p>
      )}
      {sun.panels.map((panel) => (
        <PanelFields
          key={panel.id}
          panel={panel}
          last={sun.panels.length === 1}
          onPreview={(next) => store.preview(changed({ panels: replaced(sun.panels, next) }))}
          onChange={(next) => set({ panels: replaced(sun.panels, next) }, `changed ${panel.name}`)}
          onDuplicate={
            sun.panels.length < 12
              ? () => store.edit((old) => duplicatePanel(old, sun, panel), `added ${panel.name}`)
              : undefined
          }
          onRemove={() =>
            set(
              { panels: sun.panels.filter((other) => other.id !== panel.id) },
              `removed ${panel.name}`,
            )
          }
        />
      ))}
      <Button
        className="self-start"
        disabled={sun.panels.length >= 12 || !fresh}
        onClick={() => fresh && store.edit((old) => addPanel(old, sun, fresh), "added a panel")}
      >
        + panel
      </Button>
      <More text="Strings, cable, shade">
        <Fields
          model="Sun"
          part={sun}
          specs={ARRAY}
          onChange={(next) => set(next, "changed the array")}
        />
        <ShadeFields sun={sun} onChange={(shade) => set({ shade }, "changed the shade")} />
      </More>
      <More text="Controller’s limits and voltages">
        <Fields
          model="Controller"
          part={sun.controller}
          specs={CONTROLLER_MORE}
          onChange={(controller) => set({ controller }, "changed the controller")}
        />
        <ProfileFields
          profile={sun.profile}
          absorption={run.bank.absorption_v}
          float={run.bank.float_v}
          onChange={(profile) => set({ profile }, "changed the controller’s voltages")}
        />
      </More>
      <More text="Its load output" says={sun.controller.load_output ? "used" : "none"}>
        <LoadOutputFields
          controller={sun.controller}
          onChange={(controller, did) => set({ controller }, did)}
        />
      </More>
      <StageHours id={sun.id} />
      <SourceEnd
        id={sun.id}
        onRemove={() => store.edit((old) => withoutSource(old, sun.id), `removed ${sun.name}`)}
      />
    </div>
  );
}
