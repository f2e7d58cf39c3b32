import type { Appliance } from "../../api/client";
import type { Spec } from "../../ui/Fields";

export type Pattern = NonNullable<Appliance["pattern"]>;
export type PatternType = Pattern["type"];
type Of<T extends PatternType> = Extract<Pattern, { type: T }>;

/** What the sheet shows of a way to run: its choice, its fields, a word on the power above. */
export interface PatternLook {
  says: string;
  model: string;
  fields: readonly Spec<Pattern>[];
  power: string;
}

function look<T extends PatternType>(
  says: string,
  model: string,
  power: string,
  fields: readonly Spec<Of<T>>[],
): PatternLook {
  return { says, model, power, fields: fields as unknown as readonly Spec<Pattern>[] };
}

/** Every way to run within its hours, besides steadily, in the order of the choice. */
export const PATTERNS: Record<PatternType, PatternLook> = {
  fridge: look<"fridge">(
    "as a fridge",
    "FridgePattern",
    "The share above is that at the outside temperature given; it follows each day’s air.",
    [
      { kind: "number", key: "set_c", says: "Set to", unit: "°C" },
      { kind: "number", key: "reference_c", says: "Its share holds outside at", unit: "°C" },
      { kind: "number", key: "warmer_k", says: "Its place is warmer by" },
      { kind: "number", key: "lid_percent", says: "Openings add" },
      { kind: "number", key: "cycle_min", says: "One cycle takes" },
    ],
  ),
  bursts: look<"bursts">("in bursts", "BurstsPattern", "Spread evenly over its hours.", [
    { kind: "number", key: "times_a_day", says: "Runs", unit: "× a day" },
    { kind: "number", key: "minutes", says: "for" },
  ]),
  radio: look<"radio">("as a radio", "RadioPattern", "The power above is that while sending.", [
    { kind: "number", key: "receive_w", says: "Listening" },
    { kind: "number", key: "transmit_percent", says: "Sending" },
  ]),
  logger: look<"logger">(
    "asleep, waking",
    "LoggerPattern",
    "The power above is that while awake.",
    [
      { kind: "number", key: "sleep_w", says: "Asleep" },
      { kind: "number", key: "events_a_day", says: "Wakes", unit: "× a day" },
      { kind: "number", key: "seconds", says: "for" },
    ],
  ),
};
