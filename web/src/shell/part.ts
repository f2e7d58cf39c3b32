import { type ComponentType, type LazyExoticComponent, lazy } from "react";
import { meetDataFile } from "../away/dataFile";

const AGAIN_MS = 2000;
const RELOADED = "oddkettle.reloaded";
/** Whoever has just loaded the page anew and lacks the same script again is told. */
const ONCE_IN_MS = 30_000;

/**
 * A script that is loaded when it is first needed. One that does not arrive (the connection broke, the
 * program was upgraded meanwhile) is asked for again when the server answers; browsers remember a
 * failed one for as long as the page stands, so that it is loaded anew where that does not help.
 */
export async function arriving<T>(load: () => Promise<T>): Promise<T> {
  try {
    return await load();
  } catch {
    await serverAnswers();
  }
  try {
    return await load();
  } catch (error) {
    const last = Number(sessionStorage.getItem(RELOADED) ?? 0);
    if (Date.now() - last < ONCE_IN_MS) throw error;
    sessionStorage.setItem(RELOADED, String(Date.now()));
    window.location.reload();
    return new Promise(() => undefined);
  }
}

/** A component whose script is loaded when it is first drawn. */
// biome-ignore lint/suspicious/noExplicitAny: as React's own type of what can be loaded late
export function part<T extends ComponentType<any>>(
  load: () => Promise<{ default: T }>,
): LazyExoticComponent<T> {
  return lazy(() => arriving(load));
}

async function serverAnswers(): Promise<void> {
  for (;;) {
    try {
      meetDataFile(await fetch("/api/sharing/me", { cache: "no-store" }));
      return;
    } catch {
      await new Promise((next) => setTimeout(next, AGAIN_MS));
    }
  }
}
