import type { Appliance } from "../../api/client";
import type { Spec } from "../../ui/fields/Fields";

export type Pattern = NonNullable<Appliance["pattern"]>;
export type PatternType = Pattern["type"];
type Of<T extends PatternType> = Extract<Pattern, { type: T }>;

/** What the sheet shows of a way to run: its choice, its fields, a word on the power above. */
export interface PatternLook {
  text: string;
  model: string;
  fields: readonly Spec<Pattern>[];
  power: string;
}

function look<T extends PatternType>(
  text: string,
  model: string,
  power: string,
  fields: readonly Spec<Of<T>>[],
): PatternLook {
  return { text, model, power, fields: fields as unknown as readonly Spec<Pattern>[] };
}

/** Every way to run within its hours, besides steadily, in the order of the choice. */
export const PATTERNS: Record<PatternType, PatternLook> = {
  fridge: look<"fridge">(
    "as a fridge",
    "FridgePattern",
    "The share above is that at the outside temperature given; it follows each day’s air.",
    [
      { kind: "number", key: "set_c", text: "Set to", unit: "°C" },
      { kind: "number", key: "reference_c", text: "Its share holds outside at", unit: "°C" },
      { kind: "number", key: "duty_set_c", text: "and set to", unit: "°C" },
      { kind: "number", key: "warmer_k", text: "Its place is warmer by" },
      {
        kind: "number",
        key: "room_c",
        text: "Heated, never colder than",
        unit: "°C",
        empty: "as the air",
      },
      { kind: "number", key: "lid_percent", text: "Openings add" },
      { kind: "number", key: "cycle_min", text: "One cycle takes" },
    ],
  ),
  bursts: look<"bursts">("in bursts", "BurstsPattern", "Spread evenly over its hours.", [
    { kind: "number", key: "times_a_day", text: "Runs", unit: "× a day" },
    { kind: "number", key: "minutes", text: "for" },
  ]),
  radio: look<"radio">("as a radio", "RadioPattern", "The power above is that while sending.", [
    { kind: "number", key: "receive_w", text: "Listening" },
    { kind: "number", key: "transmit_percent", text: "Sending" },
  ]),
  logger: look<"logger">(
    "asleep, waking",
    "LoggerPattern",
    "The power above is that while awake.",
    [
      { kind: "number", key: "sleep_w", text: "Asleep" },
      { kind: "number", key: "events_a_day", text: "Wakes", unit: "× a day" },
      { kind: "number", key: "seconds", text: "for" },
    ],
  ),
};
