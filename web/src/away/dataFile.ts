/** The data file that the server has open; it says so with every answer. */

const LAST = "oddkettle.data-file";
const listeners = new Set<(dataFile: string) => void>();
let met: string | null = null;

/** Note which data file answered. */
export function meetDataFile(response: Response): Response {
  const named = response.headers.get("data-file");
  if (!named || named === met) return response;
  met = named;
  try {
    localStorage.setItem(LAST, named);
  } catch {
    // A browser that keeps nothing knows it as long as the page stands.
  }
  for (const listener of listeners) listener(named);
  return response;
}

/** Which one answered last, today or on another day; null where none ever did. */
export function lastDataFile(): string | null {
  if (met) return met;
  try {
    return localStorage.getItem(LAST);
  } catch {
    return null;
  }
}

/** Hear which data file answers: the one that did already, and each other one after it. */
export function onDataFile(listener: (dataFile: string) => void): void {
  listeners.add(listener);
  if (met) listener(met);
}
