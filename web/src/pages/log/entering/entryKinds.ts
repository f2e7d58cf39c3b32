import type { BlockKind, EntryKind, LogEntry, NewEntry, Plan, SkyKey } from "../../../api/client";
import { LOG_KINDS } from "../../../api/limits.gen";
import { dateAfter, minutesOf, parseClock } from "../../../quantities/clock";
import { type Limit, parseNumber } from "../../../quantities/parse";
import { SOURCES } from "../../../sources";

/** One number of an entry: which field of it, what it is called, and its bounds. */
export interface NumberSpec {
  key:
    | "value"
    | "rested_h"
    | "amps"
    | "ah_in"
    | "ah_out"
    | "wh_in"
    | "wh_out"
    | "gross_in"
    | "gross_out";
  text: string;
  limit: Limit;
  needed?: boolean;
}

export interface KindSpec {
  kind: EntryKind;
  text: string;
  group: "read" | "did" | "saw";
  numbers: readonly NumberSpec[];
  /** It lasts: it has an end as well. */
  span?: boolean;
  appliance?: boolean;
  /** It tells of a whole day: no time is asked for. */
  daily?: boolean;
  hint?: string;
  /** The kind of block that it tells of. */
  block?: BlockKind | null;
  /** The batteries that it can be read of; none named means any. */
  chemistries?: readonly string[] | null;
}

/** Every kind, as the server knows it. */
export const KINDS: readonly KindSpec[] = LOG_KINDS.map((kind) => ({
  kind: kind.key,
  text: kind.label,
  group: kind.group,
  numbers: kind.numbers.map((number) => ({
    key: number.key,
    text: number.label,
    limit: { least: number.least, most: number.most, unit: number.unit, whole: false },
    needed: number.needed,
  })),
  span: kind.span,
  appliance: kind.appliance,
  daily: kind.daily,
  hint: kind.hint,
  block: "block" in kind ? kind.block : null,
  chemistries: "chemistries" in kind ? kind.chemistries : null,
}));

/** The kinds that say something of this plan: no generator's hours without a generator. */
export function kindsOf(plan: Plan): readonly KindSpec[] {
  const known = SOURCES.flatMap(({ key, block, always }) =>
    block && !always && plan.box[key].length === 0 ? [block.kind] : [],
  );
  const { chemistry } = plan.box.battery;
  return KINDS.filter(
    ({ block, chemistries }) =>
      (!block || !known.includes(block)) && (!chemistries || chemistries.includes(chemistry)),
  );
}

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
    numbers: Object.fromEntries(
      specOf(entry.kind).numbers.map(({ key }) => [
        key,
        text(key === "value" ? entry.value : detail[key]),
      ]),
    ),
    sinceDay: detail.since?.slice(0, 10) ?? "",
    sinceClock: detail.since?.slice(11, 16) ?? "00:00",
    appliance: detail.appliance ?? "",
    sky: detail.sky ?? "some_cloud",
    note: entry.note,
  };
}

export type Checked =
  | { ok: true; entry: NewEntry }
  | { ok: false; refusals: Partial<Record<string, string>> };

/** Kinds that count on from when they were set to zero, and where it is said that nothing is typed. */
export const COUNTED_AT: Partial<Record<EntryKind, string>> = {
  counters: "ah_out",
  two_meters: "gross_out",
};

/** The entry of a draft, or what is wrong with which field. */
export function entryOf(draft: Draft): Checked {
  const spec = specOf(draft.kind);
  const refusals: Partial<Record<string, string>> = {};
  const numbers: Partial<Record<NumberSpec["key"], number>> = {};
  for (const { key, limit, needed } of spec.numbers) {
    const text = draft.numbers[key]?.trim() ?? "";
    if (!text && !needed) continue;
    const read = parseNumber(text.replace("−", "-"), limit);
    if (read.ok) numbers[key] = read.value;
    else refusals[key] = read.refusal;
  }
  const counter = COUNTED_AT[draft.kind];
  if (counter && !refusals[counter] && Object.keys(numbers).length === 0) {
    refusals[counter] = "Nothing is typed here. Enter at least one of the counters.";
  }
  const clock = parseClock(spec.daily ? "12:00" : draft.clock);
  if (!clock.ok) refusals.clock = clock.refusal;
  const until = spec.span ? parseClock(draft.until) : null;
  if (until && !until.ok) refusals.until = until.refusal;
  const since = counter && draft.sinceDay ? parseClock(draft.sinceClock) : null;
  if (since && !since.ok) refusals.since = since.refusal;
  if (Object.keys(refusals).length > 0 || !clock.ok) return { ok: false, refusals };

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
