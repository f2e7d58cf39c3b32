import type { Appliance } from "../../api/client";
import { useReference } from "../../app/useReference";
import { Choice } from "../../ui/Choice";
import { Fields, type Spec } from "../../ui/Fields";

type Pattern = NonNullable<Appliance["pattern"]>;
type Type = Pattern["type"];
type Of<T extends Type> = Extract<Pattern, { type: T }>;

const FRIDGE: readonly Spec<Of<"fridge">>[] = [
  { kind: "number", key: "set_c", says: "Set to", unit: "°C" },
  { kind: "number", key: "reference_c", says: "Its share holds outside at", unit: "°C" },
  { kind: "number", key: "warmer_k", says: "Its place is warmer by" },
  { kind: "number", key: "lid_percent", says: "Openings add" },
  { kind: "number", key: "cycle_min", says: "One cycle takes" },
];
const RADIO: readonly Spec<Of<"radio">>[] = [
  { kind: "number", key: "receive_w", says: "Listening" },
  { kind: "number", key: "transmit_percent", says: "Sending" },
];
const BURSTS: readonly Spec<Of<"bursts">>[] = [
  { kind: "number", key: "times_a_day", says: "Runs", unit: "× a day" },
  { kind: "number", key: "minutes", says: "for" },
];
const LOGGER: readonly Spec<Of<"logger">>[] = [
  { kind: "number", key: "sleep_w", says: "Asleep" },
  { kind: "number", key: "events_a_day", says: "Wakes", unit: "× a day" },
  { kind: "number", key: "seconds", says: "for" },
];
const WORDS: Record<Type | "steady", string> = {
  steady: "It draws its power all its hours, or the share given above.",
  fridge: "The share above is that at the outside temperature given; it follows each day’s air.",
  radio: "The power above is that while sending.",
  bursts: "Spread evenly over its hours.",
  logger: "The power above is that while awake.",
};

interface Props {
  appliance: Appliance;
  onChange: (pattern: Pattern | null) => void;
}

/** How an appliance runs within its hours, with the fields that this kind needs. */
export function PatternFields({ appliance, onChange }: Props) {
  const fresh = useReference()?.fresh.patterns;
  const { pattern } = appliance;
  return (
    <div className="flex flex-col gap-3">
      <Choice
        label="How it runs"
        showLabel
        value={pattern?.type ?? "steady"}
        options={[
          { value: "steady", says: "steadily" },
          { value: "fridge", says: "as a fridge" },
          { value: "bursts", says: "in bursts" },
          { value: "radio", says: "as a radio" },
          { value: "logger", says: "asleep, waking" },
        ]}
        onChange={(type) => fresh && onChange(type === "steady" ? null : fresh[type])}
      />
      {pattern?.type === "fridge" && (
        <Fields model="FridgePattern" part={pattern} specs={FRIDGE} onChange={onChange} />
      )}
      {pattern?.type === "radio" && (
        <Fields model="RadioPattern" part={pattern} specs={RADIO} onChange={onChange} />
      )}
      {pattern?.type === "bursts" && (
        <Fields model="BurstsPattern" part={pattern} specs={BURSTS} onChange={onChange} />
      )}
      {pattern?.type === "logger" && (
        <Fields model="LoggerPattern" part={pattern} specs={LOGGER} onChange={onChange} />
      )}
      <p className="text-sm text-ash">{WORDS[pattern?.type ?? "steady"]}</p>
    </div>
  );
}
