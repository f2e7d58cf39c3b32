import type { Battery } from "../../../../api/client";
import { useReference } from "../../../../plan/useReference";
import { Fields, type Spec } from "../../../../ui/fields/Fields";
import { Switch } from "../../../../ui/fields/Switch";

type Sheet = NonNullable<Battery["datasheet"]>;
const SPECS: readonly Spec<Sheet>[] = [
  { kind: "number", key: "internal_mohm", text: "Resistance", unit: "mΩ", empty: "typical" },
  { kind: "number", key: "charge_limit_a", text: "Most charge", empty: "typical" },
  { kind: "number", key: "discharge_limit_a", text: "Most discharge", empty: "typical" },
  { kind: "number", key: "coulombic_percent", text: "Charge comes back", empty: "typical" },
  { kind: "number", key: "self_discharge_percent", text: "Self-discharge", empty: "typical" },
  { kind: "number", key: "cutoff_v", text: "Cuts out at", empty: "typical" },
  {
    kind: "number",
    key: "no_charge_below_c",
    text: "No charge below",
    unit: "°C",
    empty: "typical",
  },
  { kind: "number", key: "cycles", text: "Cycles at 80 %", empty: "typical" },
  { kind: "number", key: "years", text: "Calendar life", empty: "typical" },
  { kind: "number", key: "weight_kg", text: "Weight", empty: "typical" },
];

interface Props {
  battery: Battery;
  onChange: (datasheet: Sheet | null) => void;
}

/** The maker's figures for one battery: each replaces a typical one. */
export function DatasheetFields({ battery, onChange }: Props) {
  const fresh = useReference()?.fresh.datasheet;
  const sheet = battery.datasheet;
  return (
    <>
      <Switch
        label="I have its data sheet"
        hint="What you leave empty stays typical of the chemistry."
        checked={sheet != null}
        onChange={(on) => onChange(on && fresh ? fresh : null)}
      />
      {sheet && <Fields model="Datasheet" part={sheet} specs={SPECS} onChange={onChange} />}
    </>
  );
}
