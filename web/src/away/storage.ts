import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { KeptDay } from "./keptDays";
import type { Waiting } from "./outbox";

/** A day of one trip of one data file: plans have the same numbers in every data file. */
type DayKey = [dataFile: string, planId: number];

interface Kept extends DBSchema {
  /** One record a note, in the order in which they were written; tabs write beside each other. */
  notes: { key: number; value: Waiting & { order?: number }; indexes: { key: string } };
  days: { key: DayKey; value: KeptDay };
}

const NAME = "odd-kettle";
const [OLD_NAME, OLD_STORE, OLD_KEY] = ["keyval-store", "keyval", "outbox"];
/** A note is on the device when it is told so: not in a buffer that a shut page takes with it. */
const SURE = { durability: "strict" } as const;

/** Throws where there is no such store, like where it cannot be opened. */
async function open(): Promise<IDBPDatabase<Kept>> {
  const db = await openDB<Kept>(NAME, 1, {
    upgrade(db) {
      const notes = db.createObjectStore("notes", { keyPath: "order", autoIncrement: true });
      notes.createIndex("key", "key", { unique: true });
      db.createObjectStore("days");
    },
  });
  await takeOver(db).catch(() => undefined);
  return db;
}

/** What an older page kept, all in one value and without saying where it belongs, waits here now. */
async function takeOver(db: IDBPDatabase<Kept>): Promise<void> {
  // To open one that is not there would make it.
  const there = (await indexedDB.databases()).some(({ name }) => name === OLD_NAME);
  if (!there) return;
  const old = await openDB(OLD_NAME);
  const notes: Waiting[] = (await old.get(OLD_STORE, OLD_KEY)) ?? [];
  const work = db.transaction("notes", "readwrite", SURE);
  for (const note of notes) {
    // One that was taken over already, by another tab, is refused by its key.
    const known = await work.store.index("key").getKey(note.key);
    const nowhere = { dataFile: "", tripKey: "", title: `Plan ${note.planId}` };
    if (known === undefined) await work.store.add({ ...note, ...nowhere });
  }
  await work.done;
  await old.delete(OLD_STORE, OLD_KEY);
  old.close();
}

/**
 * The browser's own store. One that keeps nothing (a private window, a full device) is no trouble:
 * then things last as long as the page.
 */
class Storage {
  private readonly opened: Promise<IDBPDatabase<Kept> | null>;
  private readonly notesInMemory: Waiting[] = [];
  private readonly daysInMemory = new Map<string, KeptDay>();

  constructor() {
    this.opened = open().catch(() => null);
  }

  async notes(): Promise<Waiting[]> {
    const db = await this.opened;
    return db ? db.getAll("notes") : [...this.notesInMemory];
  }

  /** Write a note down; it is there for good when this is over. */
  async addNote(note: Waiting): Promise<void> {
    const db = await this.opened;
    if (!db) return void this.notesInMemory.push(note);
    const work = db.transaction("notes", "readwrite", SURE);
    await Promise.all([work.store.add(note), work.done]);
  }

  /** Change a note, if it is there still. */
  async changeNote(key: string, part: Partial<Waiting>): Promise<void> {
    const db = await this.opened;
    if (!db) {
      const found = this.notesInMemory.find((one) => one.key === key);
      if (found) Object.assign(found, part);
      return;
    }
    const work = db.transaction("notes", "readwrite", SURE);
    const found = await work.store.index("key").get(key);
    if (found) await work.store.put({ ...found, ...part });
    await work.done;
  }

  async removeNote(key: string): Promise<void> {
    const db = await this.opened;
    if (!db) {
      const at = this.notesInMemory.findIndex((one) => one.key === key);
      if (at >= 0) this.notesInMemory.splice(at, 1);
      return;
    }
    const work = db.transaction("notes", "readwrite", SURE);
    const order = await work.store.index("key").getKey(key);
    if (order !== undefined) await work.store.delete(order);
    await work.done;
  }

  async keepDay(kept: KeptDay): Promise<void> {
    const db = await this.opened;
    this.daysInMemory.set(`${kept.dataFile} ${kept.planId}`, kept);
    // A day that finds no room is no loss: it was only for later.
    await db?.put("days", kept, [kept.dataFile, kept.planId]).catch(() => undefined);
  }

  async days(): Promise<KeptDay[]> {
    const db = await this.opened;
    return db ? db.getAll("days") : [...this.daysInMemory.values()];
  }
}

export const storage = new Storage();
