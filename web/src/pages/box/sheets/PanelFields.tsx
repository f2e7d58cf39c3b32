import type { Panel } from "../../../api/client";
import { LabelReader } from "../../../labels/LabelReader";
import { KeepKey, TakeKeys } from "../../../plan/OwnShelf";
import { useReference } from "../../../plan/useReference";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { SliderField } from "../../../ui/fields/SliderField";
import { Switch } from "../../../ui/fields/Switch";
import { TextField } from "../../../ui/fields/TextField";

type Label = NonNullable<Panel["label"]>;
const LABEL: readonly Spec<Label>[] = [
  { kind: "number", key: "vmp_v", text: "Vmp", hint: "at its best power" },
  { kind: "number", key: "imp_a", text: "Imp", hint: "at its best power" },
  { kind: "number", key: "voc_v", text: "Voc", hint: "nothing connected" },
  { kind: "number", key: "isc_a", text: "Isc", hint: "short circuit; not what it charges with" },
  { kind: "number", key: "voc_percent_per_k", text: "Voc changes", unit: "%/K" },
  { kind: "number", key: "power_percent_per_k", text: "Power changes", unit: "%/K" },
  {
    kind: "number",
    key: "fuse_max_a",
    text: "Maximum series fuse",
    hint: "what the panel bears from its neighbours",
    empty: "not said",
  },
];
const COUNT: Spec<Panel> = { kind: "number", key: "count", text: "How many alike", unit: "" };
const FIXED: readonly Spec<Panel>[] = [
  { kind: "number", key: "tilt_deg", text: "Tilt from flat", unit: "°" },
  { kind: "number", key: "azimuth_deg", text: "Faces, from north", unit: "°" },
];
const AIMED: readonly Spec<Panel>[] = [
  { kind: "number", key: "aims", text: "Turned to the sun", unit: "× a day" },
];

interface Props {
  panel: Panel;
  last: boolean;
  onPreview: (panel: Panel) => void;
  onChange: (panel: Panel) => void;
  onRemove: () => void;
  /** Absent when there is room for no more. */
  onDuplicate?: () => void;
}

/** One panel, or several that lie alike: by its watts alone, or by its whole label. */
export function PanelFields(props: Props) {
  const { panel, last, onPreview, onChange, onRemove, onDuplicate } = props;
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
      <TakeKeys
        kind="panel"
        onTake={(thing) => thing.panel && onChange({ ...thing.panel, id: panel.id })}
      />
      <KeepKey name={panel.name} part={{ panel }} />
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
          { value: "flat", text: "flat", title: "on a roof it works all day, driving too" },
          { value: "tilted", text: "tilted, fixed" },
          { value: "aimed", text: "turned to the sun" },
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
        label="A regulator of its own on its back"
        hint="Common on folding panels: bypass it before a good controller."
        checked={panel.own_regulator}
        onChange={(own_regulator) => set({ own_regulator })}
      />
      <LabelReader
        of="panel"
        parts={{ panel }}
        onTake={(read) => read.panel && onChange({ ...read.panel, id: panel.id })}
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
      <Confusions panel={panel} />
      <Switch
        label="It comes along"
        hint="Turn off to see the trip without it."
        checked={panel.on}
        onChange={(on) => set({ on })}
      />
      <div className="flex flex-wrap gap-2">
        {onDuplicate && <Button onClick={onDuplicate}>Duplicate</Button>}
        {!last && <Button onClick={onRemove}>Remove this panel</Button>}
      </div>
    </fieldset>
  );
}

/** Fill factor of silicon panels: 0.70 to 0.82 [textbook]. */
const MIN_FILL = 0.66;

/** What is often typed in the wrong place, said while it is typed. */
function Confusions({ panel }: { panel: Panel }) {
  const { label } = panel;
  const text: string[] = [];
  if (!label) return null;
  const fill = (label.vmp_v * label.imp_a) / (label.voc_v * label.isc_a);
  if (fill < MIN_FILL) {
    text.push(
      `Vmp × Imp is only ${Math.round(100 * fill)} % of Voc × Isc; real panels reach 70 to 82 %. Is one of the four from another line?`,
    );
  }
  if (label.voc_v > 30 && label.vmp_v < 20) {
    text.push("Voc is far above Vmp: is Vmp that of half the panel?");
  }
  return text.map((one) => (
    <p key={one} className="text-sm text-danger" role="status">
      ▲ {one}
    </p>
  ));
}

function round(amps: number): number {
  return Number(amps.toPrecision(3));
}
