import {
  answer,
  client,
  type LogEntry,
  type NewEntry,
  type OpenPlan,
  Refusal,
} from "../api/client";
import { onDataFile } from "./dataFile";
import { storage } from "./storage";

/** A trip, by what tells it from every other: its number is the same in every data file. */
export interface TripMark {
  planId: number;
  dataFile: string;
  tripKey: string;
  title: string;
}

export const markOf = (plan: OpenPlan): TripMark => ({
  planId: plan.id,
  dataFile: plan.data_file,
  tripKey: plan.trip_key,
  title: plan.document.name,
});

/** An entry that was written here and is not on the server yet. */
export interface Waiting extends TripMark {
  /** Under which it is sent, each time the same: the server writes it once. */
  key: string;
  entry: NewEntry;
  /** What it says, as it is shown while it waits. */
  says: string;
  writtenAt: string;
  /** Why the server did not take it; it waits for its writer then. */
  refused?: string | undefined;
  /** The server has another data file open: it waits for its own. */
  elsewhere?: boolean | undefined;
}

export type Outcome =
  /** The entry, where this page sent it; another tab may have been quicker. */
  { how: "sent"; entry?: LogEntry } | { how: "waiting" } | { how: "refused"; why: string };

interface State {
  waiting: readonly Waiting[];
  /** What was sent and contradicts another device. */
  against: readonly string[];
}

const NAME = "odd-kettle-outbox";
const AGAIN_MS = 4000;
/** An answer that takes longer has been lost. */
const LOST_MS = 30_000;
/** Answers after which the same entry may be taken later on. */
const LATER = new Set([0, 401, 408, 429, 502, 503, 504]);
const ELSEWHERE = 409;

/** A random key; `randomUUID` is not there on a page that came over plain http. */
function freshKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

/**
 * Do it while no other tab does. Over plain http browsers have no locks: then two tabs may send the
 * same note, in the same order, and the server writes it once by its key.
 */
async function alone(work: () => Promise<void>): Promise<void> {
  const locks = globalThis.navigator?.locks;
  await (locks ? locks.request(NAME, work) : work());
}

/**
 * Entries of the log on their way to the server: kept in the browser first, sent in the order in
 * which they were written, once each. What cannot be sent waits; what is refused is shown to its
 * writer and holds up nobody. Every tab of the browser has one; they share what is kept.
 */
export class Outbox {
  private state: State = { waiting: [], against: [] };
  private readonly listeners = new Set<() => void>();
  private readonly others: BroadcastChannel | undefined;
  private round: Promise<void> = Promise.resolve();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly outcomes = new Map<string, Outcome>();

  constructor() {
    if (globalThis.BroadcastChannel) {
      this.others = new BroadcastChannel(NAME);
      this.others.onmessage = () => void this.reread();
    }
    void this.reread();
    globalThis.addEventListener?.("online", () => void this.send());
    onDataFile((dataFile) => void this.meet(dataFile));
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): State => this.state;

  /** Write an entry down and try to send it, after all that wait. */
  async write(trip: TripMark, entry: NewEntry, says: string): Promise<Outcome> {
    const key = freshKey();
    const { planId, dataFile, tripKey, title } = trip;
    const writtenAt = new Date().toISOString();
    const note: Waiting = { key, planId, dataFile, tripKey, title, entry, says, writtenAt };
    // It is shown when it is kept, never before: a page that is shut now takes nothing with it.
    await storage.addNote(note);
    await this.changed();
    await this.send();
    const outcome = this.outcomes.get(key) ?? this.unheard(key);
    this.outcomes.delete(key);
    // Its writer stands here and is told at once: it need not stay in the list.
    if (outcome.how === "refused") await this.drop(key);
    return outcome;
  }

  /** Send what waits, one after the other; what is on its way already is not sent beside it. */
  send(): Promise<void> {
    this.round = this.round.then(() => alone(() => this.sendAll())).catch(() => this.later());
    return this.round;
  }

  /** Take an entry out for good. */
  async drop(key: string): Promise<void> {
    await storage.removeNote(key);
    await this.changed();
  }

  /** Let a refused one be tried again. */
  async again(key: string): Promise<void> {
    await storage.changeNote(key, { refused: undefined });
    await this.send();
  }

  /** What contradicts another device was read. */
  dismiss(): void {
    this.set({ against: [] });
  }

  /** The server has this data file open: what waited for it may go. */
  private async meet(dataFile: string): Promise<void> {
    const own = (await storage.notes()).filter((one) => one.dataFile === dataFile);
    const waited = own.filter((one) => one.elsewhere);
    for (const one of waited) await storage.changeNote(one.key, { elsewhere: undefined });
    if (own.length > 0) await this.send();
  }

  private unheard(key: string): Outcome {
    return this.state.waiting.some((one) => one.key === key) ? { how: "waiting" } : { how: "sent" };
  }

  private async sendAll(): Promise<void> {
    clearTimeout(this.timer);
    for (;;) {
      const next = (await this.reread()).find((one) => !one.refused && !one.elsewhere);
      if (!next) return;
      try {
        const entry = await answer(
          client.POST("/api/plans/{plan_id}/log", {
            params: {
              path: { plan_id: next.planId },
              header: {
                "idempotency-key": next.key,
                // One that an older page wrote says neither.
                ...(next.dataFile && { "data-file": next.dataFile, "trip-key": next.tripKey }),
              },
            },
            body: next.entry,
            signal: AbortSignal.timeout(LOST_MS),
          }),
        );
        this.outcomes.set(next.key, { how: "sent", entry });
        if (entry.against) this.set({ against: [...this.state.against, entry.against] });
        await storage.removeNote(next.key);
      } catch (error) {
        if (!(error instanceof Refusal) || LATER.has(error.problem.status)) return this.later();
        if (error.problem.status === ELSEWHERE) {
          await storage.changeNote(next.key, { elsewhere: true });
        } else {
          this.outcomes.set(next.key, { how: "refused", why: error.message });
          await storage.changeNote(next.key, { refused: error.message });
        }
      }
      await this.changed();
    }
  }

  private later(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), AGAIN_MS);
  }

  /** Show what is kept now, here and in every other tab. */
  private async changed(): Promise<void> {
    await this.reread();
    this.others?.postMessage("changed");
  }

  private async reread(): Promise<readonly Waiting[]> {
    const waiting = await storage.notes();
    this.set({ waiting });
    return waiting;
  }

  private set(part: Partial<State>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }
}

export const outbox = new Outbox();
