import { answer, client, type LogEntry, type NewEntry, Refusal } from "../api/client";
import { read, write } from "./storage";

/** An entry that was written here and is not on the server yet. */
export interface Waiting {
  /** Under which it is sent, each time the same: the server writes it once. */
  key: string;
  planId: number;
  entry: NewEntry;
  /** What it says, as it is shown while it waits. */
  says: string;
  writtenAt: string;
  /** Why the server did not take it; it waits for its writer then. */
  refused?: string;
}

export type Outcome =
  | { how: "sent"; entry: LogEntry }
  | { how: "waiting" }
  | { how: "refused"; why: string };

interface State {
  waiting: readonly Waiting[];
  /** What was sent and contradicts another device. */
  against: readonly string[];
}

const KEPT = "outbox";
const AGAIN_MS = 4000;
/** Answers after which the same entry may be taken later on. */
const LATER = new Set([0, 401, 408, 429, 502, 503, 504]);

/** A random key; `randomUUID` is not there on a page that came over plain http. */
function freshKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

/**
 * Entries of the log on their way to the server: kept in the browser first, sent in the order in
 * which they were written, once each. What cannot be sent waits; what is refused is shown to its
 * writer and holds up nobody.
 */
export class Outbox {
  private state: State = { waiting: [], against: [] };
  private readonly listeners = new Set<() => void>();
  private readonly ready: Promise<void>;
  private sending: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly outcomes = new Map<string, Outcome>();

  constructor() {
    this.ready = read<readonly Waiting[]>(KEPT).then((kept) => {
      if (kept?.length) this.set({ waiting: [...kept, ...this.state.waiting] });
    });
    globalThis.addEventListener?.("online", () => void this.send());
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): State => this.state;

  /** Write an entry down and try to send it, after all that wait. */
  async write(planId: number, entry: NewEntry, says: string): Promise<Outcome> {
    await this.ready;
    const key = freshKey();
    const writtenAt = new Date().toISOString();
    await this.keep([...this.state.waiting, { key, planId, entry, says, writtenAt }]);
    // A round that is under way already may end before it comes to this one.
    const underWay = this.sending !== null;
    await this.send();
    if (underWay && !this.outcomes.has(key)) await this.send();
    const outcome = this.outcomes.get(key) ?? { how: "waiting" };
    this.outcomes.delete(key);
    // Its writer stands here and is told at once: it need not stay in the list.
    if (outcome.how === "refused") await this.drop(key);
    return outcome;
  }

  /** Send what waits, one after the other; what is on its way already is not sent beside it. */
  async send(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  /** Take an entry out for good. */
  async drop(key: string): Promise<void> {
    await this.keep(this.state.waiting.filter((one) => one.key !== key));
  }

  /** Let a refused one be tried again. */
  async again(key: string): Promise<void> {
    await this.keep(
      this.state.waiting.map((one) => (one.key === key ? { ...one, refused: undefined } : one)),
    );
    await this.send();
  }

  /** What contradicts another device was read. */
  dismiss(): void {
    this.set({ against: [] });
  }

  private async sendAll(): Promise<void> {
    await this.ready;
    clearTimeout(this.timer);
    for (;;) {
      const next = this.state.waiting.find((one) => one.refused === undefined);
      if (!next) return;
      try {
        const entry = await answer(
          client.POST("/api/plans/{plan_id}/log", {
            params: {
              path: { plan_id: next.planId },
              header: { "idempotency-key": next.key },
            },
            body: next.entry,
          }),
        );
        this.outcomes.set(next.key, { how: "sent", entry });
        if (entry.against) this.set({ against: [...this.state.against, entry.against] });
        await this.drop(next.key);
      } catch (error) {
        if (!(error instanceof Refusal) || LATER.has(error.problem.status)) {
          this.timer = setTimeout(() => void this.send(), AGAIN_MS);
          return;
        }
        this.outcomes.set(next.key, { how: "refused", why: error.message });
        await this.keep(
          this.state.waiting.map((one) =>
            one.key === next.key ? { ...one, refused: error.message } : one,
          ),
        );
      }
    }
  }

  private async keep(waiting: readonly Waiting[]): Promise<void> {
    this.set({ waiting });
    await write(KEPT, waiting);
  }

  private set(part: Partial<State>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }
}

export const outbox = new Outbox();
