import type { Amount, InstantReport, Period, RunReport, SourceKind } from "../../../api/client";
import { amountIn, sumAmounts, type Unit } from "../../../quantities/units";

/** Columns of the drawing, CSS pixels. */
export interface Columns {
  width: number;
  height: number;
  top: number;
  flow: number;
  neckLeft: number;
  neckRight: number;
  vesselLeft: number;
  vesselRight: number;
  outRight: number;
  labelGap: number;
  narrow: boolean;
}

/** Above this many appliances their labels stand closer. */
const MANY = 10;

export function columns(width: number, appliances: number): Columns {
  const narrow = width < 560;
  const labelGap = narrow ? 34 : appliances > MANY ? 25 : 40;
  const height = Math.max(
    narrow ? 520 : 500,
    120 + Math.min(appliances, narrow ? MANY : appliances) * labelGap,
  );
  return narrow
    ? {
        width,
        height,
        top: 76,
        flow: 230,
        neckLeft: width * 0.2,
        neckRight: width * 0.25,
        vesselLeft: width * 0.36,
        vesselRight: width * 0.58,
        outRight: width * 0.68,
        labelGap,
        narrow,
      }
    : {
        width,
        height,
        top: 66,
        flow: 270,
        neckLeft: width * 0.26,
        neckRight: width * 0.295,
        vesselLeft: width * 0.46,
        vesselRight: width * 0.66,
        outRight: width * 0.77,
        labelGap,
        narrow,
      };
}

export interface SourceRibbon {
  key: string;
  kind: SourceKind;
  name: string;
  limitA: number;
  offered: Amount;
  barred: Amount;
  clipped: Amount;
  spilled: Amount;
  frozen: Amount;
  taken: Amount;
  /** Top of the bottleneck's opening and how far it is open. */
  top: number;
  open: number;
  clippedPx: number;
  spilledPx: number;
  takenPx: number;
  /** Where its stream enters the vessel. */
  entry: number;
}

export interface DrawRibbon {
  key: string;
  name: string;
  used: Amount;
  unmet: Amount;
  leaves: number;
  arrives: number;
  thick: number;
}

export interface Ribbons {
  sources: SourceRibbon[];
  draws: DrawRibbon[];
  /** Where the lowest source's bottleneck ends. */
  bottom: number;
}

const NONE: Amount = { ah: 0, wh: 0 };
const MIN_PX = 2;
const SOURCE_GAP = 72;
const SOURCE_GAP_NARROW = 84;
const SHUT_PX = 5;

/**
 * Lay out the ribbons of a day or of the trip: widths to one scale, labels never on each other.
 *
 * `full` is the smallest total that fills the drawing: at a moment, the strongest of the trip, so
 * that a trickle at dawn is not as wide as noon.
 */
export function layRibbons(period: Period, unit: Unit, c: Columns, full: Amount = NONE): Ribbons {
  const size = (amount: Amount) => Math.max(amountIn(amount, unit), 0);
  const offeredAll = period.sources.reduce((sum, source) => sum + size(source.offered), 0);
  const room = c.flow - 20 * Math.max(period.sources.length - 1, 0);
  const perUnit = room / Math.max(offeredAll, size(period.used), size(full), 1e-9);
  const thick = (amount: Amount) => {
    const px = size(amount) * perUnit;
    return px > 0.05 ? Math.max(px, MIN_PX) : 0;
  };

  const gap = c.narrow ? SOURCE_GAP_NARROW : SOURCE_GAP;
  let top = c.top;
  let entry = c.top + 34;
  const sources = period.sources.map((source) => {
    // What a selector or quiet hours keep away never reaches the bottleneck either.
    const clippedPx = thick({
      ah: source.clipped.ah + source.barred.ah,
      wh: source.clipped.wh + source.barred.wh,
    });
    const open = Math.max(thick(source.offered) - clippedPx, SHUT_PX);
    const ribbon: SourceRibbon = {
      key: source.key,
      kind: source.kind,
      name: source.name,
      limitA: source.limit_a,
      offered: source.offered,
      barred: source.barred,
      clipped: source.clipped,
      spilled: source.spilled,
      frozen: source.frozen,
      taken: source.taken,
      top: top + clippedPx,
      open,
      clippedPx,
      spilledPx: source.kind === "sun" ? thick(source.spilled) : 0,
      takenPx: thick(source.taken),
      entry,
    };
    top += clippedPx + open + gap;
    entry += ribbon.takenPx + 4;
    return ribbon;
  });

  const sorted = gathered(
    period.draws.toSorted((a, b) => size(b.used) - size(a.used)),
    c.narrow ? MANY : Number.POSITIVE_INFINITY,
  );
  let leaves = c.top + 34;
  let free = c.top;
  const draws = sorted.map((draw) => {
    const px = thick(draw.used);
    const middle = Math.max(free + c.labelGap / 2, free + px / 2);
    const ribbon: DrawRibbon = {
      key: draw.key,
      name: draw.name,
      used: draw.used,
      unmet: draw.unmet,
      leaves,
      arrives: middle - px / 2,
      thick: px,
    };
    leaves += px;
    free = Math.max(middle + px / 2 + Math.min(6, c.labelGap / 6), free + c.labelGap);
    return ribbon;
  });
  return { sources, draws, bottom: top - gap + 26 };
}

type Draw = Period["draws"][number];

/** The smallest of too many appliances as one. */
function gathered(draws: Draw[], most: number): Draw[] {
  if (draws.length <= most) return draws;
  const rest = draws.slice(most - 1);
  const sum = (pick: (draw: Draw) => Amount) => sumAmounts(rest.map(pick));
  const one: Draw = {
    key: "smaller",
    name: `${rest.length} smaller ones`,
    used: sum((draw) => draw.used),
    unmet: sum((draw) => draw.unmet),
    moved: sum((draw) => draw.moved),
    lost_wh: rest.reduce((total, draw) => total + draw.lost_wh, 0),
  };
  return [...draws.slice(0, most - 1), one];
}

/** The strongest stream of the whole run, in or out, as a rate. */
export function strongest(run: RunReport): Amount {
  const { series, bank } = run;
  if (!series) return NONE;
  const all = Object.values(series.taken_a);
  let most = 0;
  for (let i = 0; i < series.load_a.length; i++) {
    const into = all.reduce((sum, amps) => sum + (amps[i] ?? 0), 0);
    most = Math.max(most, into);
  }
  return { ah: most, wh: most * bank.nominal_v };
}

/** What is shown: the whole trip, one day of it, or one moment. */
export type Shown =
  | { kind: "trip" }
  | { kind: "day"; index: number }
  | { kind: "moment"; instant: InstantReport };

/** What the vessel shows: the level that matters, its words, and a second bank's level. */
export interface VesselLevel {
  level: number;
  text: string;
  lowest: number | null;
  second: number | null;
}

export function vesselOf(run: RunReport, shown: Shown): VesselLevel {
  const second = run.series?.second_percent ?? null;
  if (shown.kind === "moment") {
    const { level_percent: level, second_percent } = shown.instant;
    return { level, text: "at that moment", lowest: null, second: second_percent ?? null };
  }
  const day = shown.kind === "day" ? run.days[shown.index] : undefined;
  if (!day) {
    const { lowest_percent, lowest_at } = run.verdict;
    const at = run.days.find((other) => lowest_at.startsWith(other.date));
    return {
      level: lowest_percent,
      text: "at the lowest",
      lowest: null,
      second: second?.[at?.first_step ?? 0] ?? null,
    };
  }
  return {
    level: day.end_percent,
    text: "at midnight",
    lowest: day.lowest_percent,
    second: second?.[day.first_step + day.steps] ?? null,
  };
}

/** A figure's unit: charge and energy over a time, or current and power at a moment. */
export function rateUnit(unit: Unit, shown: Shown): string {
  if (shown.kind !== "moment") return unit;
  return unit === "Ah" ? "A" : "W";
}
