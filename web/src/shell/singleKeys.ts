const KEY = "oddkettle.single-keys";

/**
 * Whether one letter alone does something. Who speaks to the browser, or rests a hand on the keys,
 * switches it off (WCAG 2.1.4).
 */
export function singleKeys(): boolean {
  return localStorage.getItem(KEY) !== "off";
}

export function setSingleKeys(on: boolean): void {
  if (on) localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, "off");
}
