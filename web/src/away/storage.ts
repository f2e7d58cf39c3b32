import { entries, get, set } from "idb-keyval";

/**
 * The browser's own store. One that keeps nothing (a private window, a full device) is no trouble:
 * then things last as long as the page.
 */
export async function read<T>(key: string): Promise<T | undefined> {
  try {
    return await get<T>(key);
  } catch {
    return undefined;
  }
}

export async function write(key: string, value: unknown): Promise<void> {
  try {
    await set(key, value);
  } catch {
    // It stays in memory.
  }
}

export async function readAll(): Promise<[IDBValidKey, unknown][]> {
  try {
    return await entries();
  } catch {
    return [];
  }
}
