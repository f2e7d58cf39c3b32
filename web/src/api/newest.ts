/**
 * Asks one question at a time. While one is under way the newest wish waits, and those between are
 * skipped: what moves faster than it can be answered never queues up.
 */
export class Newest<Wish> {
  private running = false;
  private waiting: Wish | null = null;

  /** `answer` takes care of its own errors; what it throws is thrown to nobody. */
  constructor(private readonly answer: (wish: Wish) => Promise<void>) {}

  ask(wish: Wish): void {
    this.waiting = wish;
    if (!this.running) void this.run();
  }

  /** Whether a newer wish waits, so that the present one need not go on. */
  get outdated(): boolean {
    return this.waiting !== null;
  }

  private async run(): Promise<void> {
    this.running = true;
    try {
      while (this.waiting !== null) {
        const wish = this.waiting;
        this.waiting = null;
        await this.answer(wish);
      }
    } finally {
      this.running = false;
    }
  }
}
