import type { Schemas } from "../api/client";
import { lastDataFile } from "./dataFile";
import type { TripMark } from "./outbox";
import { storage } from "./storage";

type TodayReport = Schemas["TodayReport"];

/** A trip's day as it was last known, kept in the browser for when the server is out of reach. */
export interface KeptDay extends TripMark {
  floor: number;
  /** When it was known, by this device's clock. */
  keptAt: string;
  day: TodayReport;
}

/** Every trip's of the data file that answered last, the newest first. */
export async function keptDays(): Promise<KeptDay[]> {
  const here = lastDataFile();
  return (await storage.days())
    .filter((kept) => kept.dataFile === here)
    .sort((a, b) => b.keptAt.localeCompare(a.keptAt));
}

/**
 * The day as it is on a date: the one that was known, or a later one of the same trip with what
 * was expected of it. Local to the trip, like 2026-06-09.
 */
export function dayOn(day: TodayReport, date: string, floor: number): TodayReport {
  const ahead = day.ahead.find((one) => one.date === date);
  if (!ahead) return day;
  const dawn = ahead.dawn?.level;
  return {
    ...day,
    day: ahead.day,
    // What was known of that night is not known of this one.
    headline: dawn
      ? `At dawn it may stand at about ${Math.round(dawn.middle)} %, as was expected on ${day.day}.`
      : `Of this night nothing was known on ${day.day}.`,
    safe: dawn === undefined || dawn.low >= floor,
    rest: "",
    question: null,
    became: null,
    things: ahead.things,
    yesterday: [],
    expected: ahead.dawn ? [ahead.dawn] : [],
    course: null,
    read: null,
  };
}

/**
 * The trip's local time now, like 2026-06-09T08:30: this device's clock in the trip's zone while
 * the trip is under way by it, else the moment that was known last.
 */
export function localNow(day: TodayReport, now: number = Date.now()): string {
  const zone = /([+-])(\d\d):(\d\d)$/.exec(day.now);
  const minutes = zone ? (zone[1] === "-" ? -1 : 1) * (Number(zone[2]) * 60 + Number(zone[3])) : 0;
  const local = new Date(now + minutes * 60_000).toISOString().slice(0, 16);
  const last = day.ahead.at(-1)?.date ?? day.now.slice(0, 10);
  const within = local >= day.now.slice(0, 16) && local.slice(0, 10) <= last;
  return within ? local : day.now.slice(0, 16);
}

/** How long ago, as one says it. */
export function ageWords(keptAt: string, now: number = Date.now()): string {
  const minutes = Math.max(0, Math.round((now - Date.parse(keptAt)) / 60_000));
  if (minutes < 2) return "a moment ago";
  if (minutes < 90) return `${minutes} minutes ago`;
  const hours = Math.round(minutes / 60);
  if (hours < 36) return `${hours} hours ago`;
  return `${Math.round(hours / 24)} days ago`;
}
