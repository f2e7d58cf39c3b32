import type { EntryKind, LogEntry, NewEntry, SkyKey } from "../../api/client";
import { dateAfter, minutesOf, parseClock } from "../../quantities/clock";
import { type Limit, parseNumber } from "../../quantities/parse";

/** One number of an entry: which field of it, what it is called, and its bounds. */
export interface NumberSpec {
  key: "value" | "rested_h" | "amps" | "ah_in" | "ah_out" | "wh_in" | "wh_out";
  says: string;
  limit: Limit;
  needed?: boolean;
}

export interface KindSpec {
  kind: EntryKind;
  says: string;
  group: "read" | "did" | "saw";
  numbers: readonly NumberSpec[];
  /** It lasts: it has an end as well. */
  span?: boolean;
  appliance?: boolean;
  /** It tells of a whole day: no time is asked for. */
  daily?: boolean;
  hint?: string;
}

const limit = (least: number, most: number, unit: string): Limit => ({
  least,
  most,
  unit,
  whole: false,
});
const COUNT = limit(0, 1e6, "Ah");

export const KINDS: readonly KindSpec[] = [
  {
    kind: "monitor_percent",
    says: "monitor %",
    group: "read",
    numbers: [{ key: "value", says: "The monitor says", limit: limit(0, 100, "%"), needed: true }],
    hint: "A counting monitor is often some points off until the next full charge; that is reckoned with.",
  },
  {
    kind: "rested_voltage",
    says: "rested V",
    group: "read",
    numbers: [
      { key: "value", says: "Rested voltage", limit: limit(5, 32, "V"), needed: true },
      { key: "rested_h", says: "Rested for", limit: limit(0, 240, "h") },
    ],
    hint: "Rested means some hours with nothing in or out. On LiFePO4 the curve is so flat from 30 to 90 % that a voltmeter there says little; the bar on the chart is as long as that doubt.",
  },
  {
    kind: "loaded_voltage",
    says: "V under load",
    group: "read",
    numbers: [
      { key: "value", says: "Voltage", limit: limit(5, 32, "V"), needed: true },
      { key: "amps", says: "Into the battery (−: out)", limit: limit(-1000, 1000, "A") },
    ],
    hint: "Worth more with the current read at the same moment.",
  },
  {
    kind: "counters",
    says: "counters",
    group: "read",
    numbers: [
      { key: "ah_in", says: "Counted in", limit: COUNT },
      { key: "ah_out", says: "Counted out", limit: COUNT },
      { key: "wh_in", says: "Counted in", limit: limit(0, 1e6, "Wh") },
      { key: "wh_out", says: "Counted out", limit: limit(0, 1e6, "Wh") },
    ],
    hint: "As they stand; what ran since the counters read before is taken. The first ones need the time at which they were set to zero.",
  },
  {
    kind: "net_amps",
    says: "A now",
    group: "read",
    numbers: [
      {
        key: "value",
        says: "Into the battery (−: out)",
        limit: limit(-1000, 1000, "A"),
        needed: true,
      },
    ],
    hint: "One glance: clouds and compressors change it by the minute.",
  },
  {
    kind: "full",
    says: "full",
    group: "read",
    numbers: [],
    hint: "The charger says full: an anchor.",
  },
  {
    kind: "cut_out",
    says: "cut out",
    group: "read",
    numbers: [],
    hint: "The box switched itself off: an anchor at the other end.",
  },
  { kind: "drove", says: "drove", group: "did", numbers: [], span: true },
  { kind: "no_drive", says: "did not drive", group: "did", numbers: [], daily: true },
  { kind: "hooked_up", says: "on mains", group: "did", numbers: [], span: true },
  { kind: "no_hookup", says: "no mains", group: "did", numbers: [], daily: true },
  { kind: "panel_out", says: "panel out", group: "did", numbers: [], span: true },
  { kind: "panel_in", says: "panel away", group: "did", numbers: [], span: true },
  { kind: "skipped", says: "left off", group: "did", numbers: [], span: true, appliance: true },
  { kind: "ran", says: "ran besides", group: "did", numbers: [], span: true, appliance: true },
  { kind: "sky", says: "the sky", group: "saw", numbers: [], daily: true },
];

export function specOf(kind: EntryKind): KindSpec {
  const spec = KINDS.find((other) => other.kind === kind);
  if (!spec) throw new Error(`no kind ${kind}`);
  return spec;
}

/** An entry as it is being typed: everything is text until it is sent. */
export interface Draft {
  kind: EntryKind;
  day: string;
  clock: string;
  until: string;
  numbers: Partial<Record<NumberSpec["key"], string>>;
  /** Day and time at which the counters were set to zero; nothing for the reading before. */
  sinceDay: string;
  sinceClock: string;
  appliance: string;
  sky: SkyKey;
  note: string;
}

export function freshDraft(kind: EntryKind, now: string, appliance: string): Draft {
  return {
    kind,
    day: now.slice(0, 10),
    clock: now.slice(11, 16),
    until: "",
    numbers: {},
    sinceDay: "",
    sinceClock: "00:00",
    appliance,
    sky: "some_cloud",
    note: "",
  };
}

/** The draft that a stored entry would have come from, to be corrected. */
export function draftOf(entry: LogEntry): Draft {
  const { detail } = entry;
  const text = (value: number | null | undefined) => (value == null ? "" : String(value));
  return {
    kind: entry.kind,
    day: entry.at_local.slice(0, 10),
    clock: entry.at_local.slice(11, 16),
    until: detail.until?.slice(11, 16) ?? "",
    numbers: {
      value: text(entry.value),
      rested_h: text(detail.rested_h),
      amps: text(detail.amps),
      ah_in: text(detail.ah_in),
      ah_out: text(detail.ah_out),
      wh_in: text(detail.wh_in),
      wh_out: text(detail.wh_out),
    },
    sinceDay: detail.since?.slice(0, 10) ?? "",
    sinceClock: detail.since?.slice(11, 16) ?? "00:00",
    appliance: detail.appliance ?? "",
    sky: detail.sky ?? "some_cloud",
    note: entry.note,
  };
}

export type Checked =
  | { ok: true; entry: NewEntry }
  | { ok: false; says: Partial<Record<string, string>> };

/** The entry of a draft, or what is wrong with which field. */
export function entryOf(draft: Draft): Checked {
  const spec = specOf(draft.kind);
  const says: Partial<Record<string, string>> = {};
  const numbers: Partial<Record<NumberSpec["key"], number>> = {};
  for (const { key, limit, needed } of spec.numbers) {
    const text = draft.numbers[key]?.trim() ?? "";
    if (!text && !needed) continue;
    const read = parseNumber(text.replace("−", "-"), limit);
    if (read.ok) numbers[key] = read.value;
    else says[key] = read.says;
  }
  if (draft.kind === "counters" && !says.ah_out && Object.keys(numbers).length === 0) {
    says.ah_out = "Nothing is typed here. Enter at least one of the four counters.";
  }
  const clock = parseClock(spec.daily ? "12:00" : draft.clock);
  if (!clock.ok) says.clock = clock.says;
  const until = spec.span ? parseClock(draft.until) : null;
  if (until && !until.ok) says.until = until.says;
  const since = draft.kind === "counters" && draft.sinceDay ? parseClock(draft.sinceClock) : null;
  if (since && !since.ok) says.since = since.says;
  if (Object.keys(says).length > 0 || !clock.ok) return { ok: false, says };

  const { value = null, ...rest } = numbers;
  return {
    ok: true,
    entry: {
      kind: draft.kind,
      at: moment(draft.day, clock.value),
      value,
      ...rest,
      note: draft.note,
      ...(until?.ok ? { until: endOf(draft.day, clock.value, until.value) } : {}),
      ...(since?.ok ? { since: moment(draft.sinceDay, since.value) } : {}),
      ...(spec.appliance ? { appliance: draft.appliance } : {}),
      ...(draft.kind === "sky" ? { sky: draft.sky } : {}),
    },
  };
}

function moment(day: string, clock: string): string {
  return clock === "24:00" ? `${dateAfter(day, 1)}T00:00:00` : `${day}T${clock}:00`;
}

/** An end that is not later than its start is meant for the next day. */
export function endOf(day: string, start: string, end: string): string {
  const next = minutesOf(end) <= minutesOf(start);
  return moment(next ? dateAfter(day, 1) : day, end);
}

/** A local time so many minutes earlier. */
export function earlier(local: string, minutes: number): string {
  const date = new Date(`${local.slice(0, 16)}:00Z`);
  date.setUTCMinutes(date.getUTCMinutes() - minutes);
  return date.toISOString().slice(0, 16);
}
