export const DAY_MIN = 1440;

/** Minutes after midnight of HH:MM. */
export function minutesOf(clock: string): number {
  const [hours = 0, minutes = 0] = clock.split(":").map(Number);
  return hours * 60 + minutes;
}

/** HH:MM of minutes after midnight; 1440 is 24:00. */
export function clockOf(minutes: number): string {
  const whole = Math.round(minutes);
  return `${String(Math.floor(whole / 60)).padStart(2, "0")}:${String(whole % 60).padStart(2, "0")}`;
}

export type ParsedClock = { ok: true; value: string } | { ok: false; refusal: string };

/** Read a typed time of day: 7:30, 07.30, 0730, 7, 7:30 pm or 7p. */
export function parseClock(text: string): ParsedClock {
  const bare = text.trim();
  const match = /^(\d{1,2})(?:[:.]?(\d{2}))?\s*(?:([ap])\.?m?\.?)?$/i.exec(bare);
  if (match) {
    const half = match[3]?.toLowerCase();
    const typed = Number(match[1]);
    const hours = half ? (typed > 12 ? 99 : (typed % 12) + (half === "p" ? 12 : 0)) : typed;
    const minutes = Number(match[2] ?? 0);
    if (minutes < 60 && (hours < 24 || (hours === 24 && minutes === 0))) {
      return { ok: true, value: clockOf(hours * 60 + minutes) };
    }
  }
  const refusal = bare ? `“${bare}” is not a time of day` : "Nothing is typed here";
  return { ok: false, refusal: `${refusal}. Write it from 00:00 to 24:00, like 07:30.` };
}

const WEEKDAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];

const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** Like Fri 12, of an ISO date; with its month where weekdays come again and again. */
export function dayName(iso: string, withMonth = false): string {
  const date = new Date(`${iso}T00:00:00Z`);
  const day = `${WEEKDAYS[date.getUTCDay()]} ${date.getUTCDate()}`;
  return withMonth ? `${day} ${MONTHS[date.getUTCMonth()]}` : day;
}

/** The ISO date `days` after another. */
export function dateAfter(iso: string, days: number): string {
  const date = new Date(`${iso}T00:00:00Z`);
  date.setUTCDate(date.getUTCDate() + days);
  return date.toISOString().slice(0, 10);
}
