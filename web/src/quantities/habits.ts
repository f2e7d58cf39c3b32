/** How its user writes temperatures, cable sizes, weights and times. */
export interface Habits {
  temperature: "C" | "F";
  cable: "mm2" | "AWG";
  weight: "kg" | "lb";
  clock: "24" | "12";
  /** The sign of prices; guesses in euros are taken one for one. */
  currency: "EUR" | "USD" | "GBP";
}

const SIGNS = { EUR: "€", USD: "$", GBP: "£" } as const;

export const USUAL_HABITS: Habits = {
  temperature: "C",
  cable: "mm2",
  weight: "kg",
  clock: "24",
  currency: "EUR",
};

/** A unit as it is shown, with the way from the stored value to the shown one and back. */
export interface Shown {
  unit: string;
  to: (stored: number) => number;
  from: (shown: number) => number;
}

const same = (value: number) => value;
const AWG_STEP = 92;
const AWG_BASE_MM = 0.127;
const LB_PER_KG = 2.20462262;

/** AWG number of a conductor: 0 is 1/0, -1 is 2/0. d = 0.127 mm x 92^((36-n)/39). */
export function awgOf(areaMm2: number): number {
  const diameter = Math.sqrt((4 * areaMm2) / Math.PI);
  return 36 - (39 * Math.log(diameter / AWG_BASE_MM)) / Math.log(AWG_STEP);
}

/** Copper area of an AWG number [mm2]. */
export function areaOf(awg: number): number {
  const diameter = AWG_BASE_MM * AWG_STEP ** ((36 - awg) / 39);
  return (Math.PI * diameter ** 2) / 4;
}

/** How a stored unit is shown under these habits. */
export function shownUnit(unit: string, habits: Habits): Shown {
  switch (unit) {
    case "C":
    case "°C":
      return habits.temperature === "F"
        ? { unit: "°F", to: (c) => (c * 9) / 5 + 32, from: (f) => ((f - 32) * 5) / 9 }
        : { unit: "°C", to: same, from: same };
    case "K":
      return habits.temperature === "F"
        ? { unit: "°F", to: (k) => (k * 9) / 5, from: (f) => (f * 5) / 9 }
        : { unit: "K", to: same, from: same };
    case "mm2":
    case "mm²":
      return habits.cable === "AWG"
        ? { unit: "AWG", to: awgOf, from: areaOf }
        : { unit: "mm²", to: same, from: same };
    case "kg":
      return habits.weight === "lb"
        ? { unit: "lb", to: (kg) => kg * LB_PER_KG, from: (lb) => lb / LB_PER_KG }
        : { unit: "kg", to: same, from: same };
    case "€":
      return { unit: SIGNS[habits.currency], to: same, from: same };
    case "mOhm":
      return { unit: "mΩ", to: same, from: same };
    default:
      return { unit: unit.replace(/ at .*/, ""), to: same, from: same };
  }
}

/** Whole degrees with their unit. A hair under nought is not written as minus nought. */
export function degreesText(celsius: number, habits: Habits, withUnit = true): string {
  const { unit, to } = shownUnit("C", habits);
  const text = String(Math.round(to(celsius)) + 0).replace("-", "−");
  return withUnit ? `${text} ${unit}` : text;
}

export function weightText(kilograms: number, habits: Habits): string {
  const { unit, to } = shownUnit("kg", habits);
  const value = to(kilograms);
  return `${value.toFixed(value < 9.95 ? 1 : 0)} ${unit}`;
}

/** A price, or a range of guesses; cents below ten. */
export function moneyText(habits: Habits, low: number, high = low): string {
  const digits = high < 10 ? 2 : 0;
  const [from, to] = [low, high].map((value) => value.toFixed(digits));
  return `${SIGNS[habits.currency]} ${from === to ? from : `${from} to ${to}`}`;
}

/** HH:MM, or h:MM with am and pm; 24:00 is midnight. */
export function clockText(clock: string, habits: Habits): string {
  if (habits.clock === "24") return clock;
  const [hours = 0, minutes = 0] = clock.split(":").map(Number);
  const half = hours % 24 < 12 ? "am" : "pm";
  return `${hours % 12 || 12}:${String(minutes).padStart(2, "0")} ${half}`;
}

/** The hour on an axis. */
export function hourText(hour: number, habits: Habits): string {
  if (habits.clock === "24") return String(hour).padStart(2, "0");
  return `${hour % 12 || 12}${hour % 24 < 12 ? "a" : "p"}`;
}
