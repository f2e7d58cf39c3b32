import type { Habits } from "./habits";
import type { Unit } from "./units";

/**
 * Sentences are written out by the server, in the habits that this cookie names; whatever is
 * asked or downloaded takes it along. Kept in this browser, sent nowhere else.
 */
const COOKIE = "oddkettle-habits";
const YEAR_S = 31_536_000;

/** The cookie's value; only letters, figures, colons and full stops, so nothing is escaped. */
export function readerOf(habits: Habits, unit: Unit): string {
  return Object.entries({ ...habits, unit })
    .map(([name, choice]) => `${name}:${choice}`)
    .sort()
    .join(".");
}

/** Tell the server from now on; true where it was told something else before. */
export function tellServer(reader: string): boolean {
  const told = document.cookie.split("; ").find((part) => part.startsWith(`${COOKIE}=`));
  if (told === `${COOKIE}=${reader}`) return false;
  // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store needs a secure origin.
  document.cookie = `${COOKIE}=${reader}; path=/; max-age=${YEAR_S}; SameSite=Strict`;
  return true;
}
