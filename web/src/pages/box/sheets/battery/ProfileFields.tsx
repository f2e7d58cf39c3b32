import type { Profile } from "../../../../api/client";
import { useReference } from "../../../../plan/useReference";
import { Fields, type Spec } from "../../../../ui/fields/Fields";
import { Switch } from "../../../../ui/fields/Switch";

const SPECS: readonly Spec<Profile>[] = [
  { kind: "number", key: "absorption_v", text: "Absorption" },
  { kind: "number", key: "float_v", text: "Float" },
  {
    kind: "number",
    key: "tail_percent",
    text: "Ends below",
    unit: "% of Ah",
    empty: "usual",
  },
  { kind: "number", key: "absorption_hours", text: "or after", empty: "4" },
  { kind: "number", key: "second_v", text: "Second absorption", empty: "none" },
  { kind: "number", key: "second_hours", text: "for" },
  {
    kind: "number",
    key: "refresh_days",
    text: "Charges anew after",
    hint: "days of float; 0 is never",
  },
  {
    kind: "flag",
    key: "equalises",
    text: "It has an equalising stage",
    hint: "One that cannot be switched off; also called desulphation or recovery.",
  },
  { kind: "flag", key: "compensated", text: "Follows the battery’s temperature" },
];

interface Props {
  profile: Profile | null | undefined;
  absorption: number;
  float: number;
  onChange: (profile: Profile | null) => void;
}

/** Voltages of one charger, when it does not hold the box's. */
export function ProfileFields({ profile, absorption, float, onChange }: Props) {
  const fresh = useReference()?.fresh.profile;
  return (
    <>
      <Switch
        label="It has voltages of its own"
        hint={profile ? undefined : `Now the box’s: ${absorption} V and ${float} V.`}
        checked={profile != null}
        onChange={(own) =>
          onChange(own && fresh ? { ...fresh, absorption_v: absorption, float_v: float } : null)
        }
      />
      {profile && <Fields model="Profile" part={profile} specs={SPECS} onChange={onChange} />}
    </>
  );
}
