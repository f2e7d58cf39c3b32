import { LIMITS } from "../api/limits.gen";

export type LimitKey = keyof typeof LIMITS;
export interface Limit {
  readonly least: number;
  readonly most: number;
  readonly unit: string;
  readonly whole: boolean;
}
export type Parsed = { ok: true; value: number } | { ok: false; refusal: string };

export function limitOf(key: LimitKey): Limit {
  return LIMITS[key];
}

const LETTERS = /^-?[0-9]*[.,]?[0-9]+$/;

/** Read a typed number within a limit; decimal point or comma. Says value, limit and remedy. */
export function parseNumber(text: string, limit: Limit): Parsed {
  const bare = text.trim().replace(/\s/g, "");
  const unit = limit.unit ? ` ${limit.unit}` : "";
  const range = `${figure(limit.least)} to ${figure(limit.most)}${unit}`;
  if (bare === "") return { ok: false, refusal: `Nothing is typed here. Enter ${range}.` };
  if (!LETTERS.test(bare))
    return { ok: false, refusal: `“${bare}” is not a number. Enter ${range}.` };
  const value = Number(bare.replace(",", "."));
  if (limit.whole && !Number.isInteger(value)) {
    return { ok: false, refusal: `${bare} is not whole. Enter a whole number, ${range}.` };
  }
  if (value < limit.least) {
    return { ok: false, refusal: `${bare} is too little. Enter ${range}.` };
  }
  if (value > limit.most) {
    return { ok: false, refusal: `${bare} is too much. Enter ${range}.` };
  }
  return { ok: true, value };
}

function figure(value: number): string {
  return value.toLocaleString("en-GB", { maximumFractionDigits: 3 });
}
