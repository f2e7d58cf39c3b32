// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from "vitest";
import { type Alarm, tell } from "./useAlarms";

const alarm = (part: Partial<Alarm>): Alarm => ({
  key: "floor:2026-06-09",
  kind: "floor",
  urgent: true,
  text: "It goes under your reserve.",
  remedy: "Drive.",
  raised_at: "2026-06-09T20:00:00Z",
  tell: true,
  seen: false,
  ...part,
});

function notes(permission: string) {
  const shown: string[] = [];
  class Note {
    static permission = permission;
    constructor(_: string, { body }: { body: string }) {
      shown.push(body);
    }
  }
  vi.stubGlobal("Notification", Note);
  return shown;
}

describe("telling an alarm by the device's own notes", () => {
  beforeEach(() => localStorage.clear());

  it("tells each thing once, over starts of the page too", async () => {
    const shown = notes("granted");
    await tell(1, alarm({}));
    await tell(1, alarm({ text: "In other words." }));
    await tell(1, alarm({ key: "frost:2026-06-09", text: "Frost." }));
    expect(shown).toEqual(["It goes under your reserve. Drive.", "Frost. Drive."]);
    await tell(2, alarm({ text: "Of another trip." }));
    expect(shown).toHaveLength(3);
  });

  it("is quiet where it is not to be told, or not allowed", async () => {
    const shown = notes("granted");
    await tell(1, alarm({ tell: false }));
    const refused = notes("denied");
    await tell(1, alarm({}));
    expect([...shown, ...refused]).toEqual([]);
  });

  it("tells later what it could not tell yet", async () => {
    notes("default");
    await tell(1, alarm({}));
    const shown = notes("granted");
    await tell(1, alarm({}));
    expect(shown).toHaveLength(1);
  });
});
