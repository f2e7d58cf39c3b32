/** An address of this app to go on to; the first page for anything that leads elsewhere. */
export function withinApp(to: string | null): string {
  if (!to?.startsWith("/") || to.startsWith("/pair")) return "/";
  const here = globalThis.location?.origin ?? "http://127.0.0.1";
  const there = new URL(to, here);
  return there.origin === here ? there.pathname + there.search : "/";
}
