import type { Amount } from "../api/client";

export type Unit = "Ah" | "Wh";

/** The figure of an amount in the chosen unit, as text without the unit. */
export function amountText(amount: Amount, unit: Unit, signed = false): string {
  const value = unit === "Ah" ? amount.ah : amount.wh;
  const digits = unit === "Ah" && Math.abs(value) < 9.95 ? 1 : 0;
  const rounded = Number(value.toFixed(digits));
  const text = Math.abs(rounded).toFixed(digits);
  // A true minus is as wide as a figure, so columns stay straight.
  if (rounded < 0) return `−${text}`;
  return signed && rounded > 0 ? `+${text}` : text;
}

/** The amount in the chosen unit. */
export function amountIn(amount: Amount, unit: Unit): number {
  return unit === "Ah" ? amount.ah : amount.wh;
}

export function sumAmounts(amounts: readonly Amount[]): Amount {
  return amounts.reduce((sum, next) => ({ ah: sum.ah + next.ah, wh: sum.wh + next.wh }), {
    ah: 0,
    wh: 0,
  });
}

/** A short figure: three significant digits, no trailing noughts. */
export function shortFigure(value: number): string {
  if (!Number.isFinite(value)) return "–";
  const digits = Math.abs(value) >= 100 ? 0 : Math.abs(value) >= 10 ? 1 : 2;
  return String(Number(value.toFixed(digits)));
}

/** A figure as it was typed, to a hundred-thousandth. */
export function plainFigure(value: number): string {
  return String(Number(value.toFixed(5)));
}

export function percentText(value: number): string {
  return `${Math.round(value)} %`;
}

/** From so much to so much, two digits that say something: 0.09 to 0.2. */
export function spanText({ low, high }: { low: number; high: number }): string {
  return [low, high].map((value) => `${Number(value.toPrecision(2))}`).join(" to ");
}

/** Hours as a camper says them. */
export function hoursText(hours: number): string {
  if (hours < 1) return `${Math.round(hours * 60)} min`;
  return hours < 10 ? `${hours.toFixed(1)} h` : `${Math.round(hours)} h`;
}

/** A sentence whose figures stay beside their units where a line breaks. */
export function unbroken(text: string): string {
  return text.replace(/(\d) (?=(?:%|Ah|Wh|W|A|V|h|min|°C|°F|km)(?![\p{L}]))/gu, "$1\u00a0");
}
