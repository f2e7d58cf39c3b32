import type { Panel } from "../../api/client";
import { useReference } from "../../app/useReference";
import { Choice } from "../../ui/Choice";
import { Fields, type Spec } from "../../ui/Fields";
import { SliderField } from "../../ui/SliderField";
import { Switch } from "../../ui/Switch";
import { TextField } from "../../ui/TextField";

type Label = NonNullable<Panel["label"]>;
const LABEL: readonly Spec<Label>[] = [
  { kind: "number", key: "vmp_v", says: "Vmp", hint: "at its best power" },
  { kind: "number", key: "imp_a", says: "Imp", hint: "at its best power" },
  { kind: "number", key: "voc_v", says: "Voc", hint: "nothing connected" },
  { kind: "number", key: "isc_a", says: "Isc", hint: "short circuit; not what it charges with" },
  { kind: "number", key: "voc_percent_per_k", says: "Voc changes", unit: "%/K" },
  { kind: "number", key: "power_percent_per_k", says: "Power changes", unit: "%/K" },
];
const COUNT: Spec<Panel> = { kind: "number", key: "count", says: "How many alike", unit: "" };
const FIXED: readonly Spec<Panel>[] = [
  { kind: "number", key: "tilt_deg", says: "Tilt from flat", unit: "°" },
  { kind: "number", key: "azimuth_deg", says: "Faces, from north", unit: "°" },
];
const AIMED: readonly Spec<Panel>[] = [
  { kind: "number", key: "aims", says: "Turned to the sun", unit: "× a day" },
];

interface Props {
  panel: Panel;
  last: boolean;
  onPreview: (panel: Panel) => void;
  onChange: (panel: Panel) => void;
  onRemove: () => void;
}

/** One panel, or several that lie alike: by its watts alone, or by its whole label. */
export function PanelFields({ panel, last, onPreview, onChange, onRemove }: Props) {
  const fresh = useReference()?.fresh.label;
  const set = (part: Partial<Panel>) => onChange({ ...panel, ...part });

  function describe(on: boolean) {
    if (!fresh) return;
    // Begin with a label that agrees with the watts, or it would be refused at once.
    const imp_a = round(panel.power_w / fresh.vmp_v);
    set({ label: on ? { ...fresh, imp_a, isc_a: round(1.06 * imp_a) } : null });
  }

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
        value={panel.mount}
        options={[
          { value: "flat", says: "flat", title: "on a roof it works all day, driving too" },
          { value: "tilted", says: "tilted, fixed" },
          { value: "aimed", says: "turned to the sun" },
        ]}
        onChange={(mount) => set({ mount })}
      />
      <Switch
        label="Put out by hand"
        hint="It works only in panel-out hours, and is stowed while driving."
        checked={panel.portable}
        onChange={(portable) => set({ portable })}
      />
      <Fields
        model="Panel"
        part={panel}
        specs={[
          ...(panel.mount === "tilted" ? FIXED : panel.mount === "aimed" ? AIMED : []),
          COUNT,
        ]}
        onChange={onChange}
      />
      <Switch
        label="Enter its whole label"
        hint="Which number goes where: Vmp and Imp are what it works at; Voc and Isc are larger."
        checked={panel.label != null}
        onChange={describe}
      />
      {panel.label && (
        <Fields
          model="PanelLabel"
          part={panel.label}
          specs={LABEL}
          onChange={(label) => set({ label })}
        />
      )}
      {!last && (
        <button type="button" className="key self-start" onClick={onRemove}>
          Remove this panel
        </button>
      )}
    </fieldset>
  );
}

function round(amps: number): number {
  return Number(amps.toPrecision(3));
}
