import type { Panel, SunInput } from "../../api/client";
import { useBench, useBenchState } from "../../app/context";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { SliderField } from "../../ui/SliderField";
import { TextField } from "../../ui/TextField";
import { LimitNote } from "./LimitNote";
import { addPanel, withBox, withSun } from "./parts";

/** Panels on one controller. */
export function SunSheet({ sun }: { sun: SunInput }) {
  const bench = useBench();
  const { run } = useBenchState();
  const changed = (part: Partial<SunInput>) => withSun(bench.snapshot().draft, { ...sun, ...part });
  const set = (part: Partial<SunInput>, did: string) => bench.commit(changed(part), did);
  const controller = (part: Partial<SunInput["controller"]>) => ({
    controller: { ...sun.controller, ...part },
  });

  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">Panels and controller</h2>
      <LimitNote limits={run.limits} part={sun.id} />
      <TextField
        label="Name"
        value={sun.name}
        onCommit={(name) => set({ name }, "renamed panels")}
      />
      <SliderField
        label="Controller’s output limit"
        value={sun.controller.limit_a}
        limit="Controller.limit_a"
        from={1}
        to={40}
        step={1}
        onPreview={(limit_a) => bench.preview(changed(controller({ limit_a })))}
        onCommit={(limit_a) => set(controller({ limit_a }), "changed the controller")}
      />
      <NumberField
        label="Controller’s efficiency"
        value={sun.controller.efficiency_percent}
        limit="Controller.efficiency_percent"
        onCommit={(efficiency_percent) =>
          set(controller({ efficiency_percent }), "changed the controller")
        }
      />
      {sun.panels.map((panel) => (
        <PanelFields
          key={panel.id}
          panel={panel}
          last={sun.panels.length === 1}
          onPreview={(next) => bench.preview(changed({ panels: replaced(sun.panels, next) }))}
          onChange={(next) => set({ panels: replaced(sun.panels, next) }, `changed ${panel.name}`)}
          onRemove={() =>
            set(
              { panels: sun.panels.filter((other) => other.id !== panel.id) },
              `removed ${panel.name}`,
            )
          }
        />
      ))}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="key"
          disabled={sun.panels.length >= 12}
          onClick={() => bench.edit((old) => addPanel(old, sun), "added a panel")}
        >
          + panel
        </button>
        <button
          type="button"
          className="key"
          onClick={() =>
            bench.edit(
              (old) => withBox(old, { sun: old.box.sun.filter((other) => other.id !== sun.id) }),
              `removed ${sun.name}`,
            )
          }
        >
          Remove all this
        </button>
      </div>
    </div>
  );
}

function replaced(panels: readonly Panel[], next: Panel): Panel[] {
  return panels.map((old) => (old.id === next.id ? next : old));
}

interface PanelProps {
  panel: Panel;
  last: boolean;
  onPreview: (panel: Panel) => void;
  onChange: (panel: Panel) => void;
  onRemove: () => void;
}

function PanelFields({ panel, last, onPreview, onChange, onRemove }: PanelProps) {
  const set = (part: Partial<Panel>) => onChange({ ...panel, ...part });
  const mounting = panel.portable ? "portable" : panel.mount;
  return (
    <fieldset className="flex flex-col gap-2 border-t border-line pt-2">
      <TextField label="Panel" value={panel.name} onCommit={(name) => set({ name })} />
      <SliderField
        label="Watts on its label"
        value={panel.power_w}
        limit="Panel.power_w"
        from={5}
        to={400}
        step={5}
        onPreview={(power_w) => onPreview({ ...panel, power_w })}
        onCommit={(power_w) => set({ power_w })}
      />
      <Choice
        label="It lies"
        showLabel
        value={mounting}
        options={[
          { value: "flat", says: "flat on the roof", title: "works all day, driving too" },
          { value: "tilted", says: "tilted, fixed" },
          { value: "portable", says: "put out by hand", title: "works only in panel-out hours" },
        ]}
        onChange={(next) =>
          set(
            next === "flat"
              ? { mount: "flat", portable: false }
              : { mount: "tilted", portable: next === "portable" },
          )
        }
      />
      {panel.mount === "tilted" && (
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Tilt from flat"
            value={panel.tilt_deg}
            limit="Panel.tilt_deg"
            unit="°"
            onCommit={(tilt_deg) => set({ tilt_deg })}
          />
          <NumberField
            label="Faces, from north"
            value={panel.azimuth_deg}
            limit="Panel.azimuth_deg"
            unit="°"
            onCommit={(azimuth_deg) => set({ azimuth_deg })}
          />
        </div>
      )}
      {!last && (
        <button type="button" className="key self-start" onClick={onRemove}>
          Remove this panel
        </button>
      )}
    </fieldset>
  );
}
