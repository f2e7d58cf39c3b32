import "fake-indexeddb/auto";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { meetDataFile } from "./dataFile";
import { ageWords, dayOn, keptDays, localNow } from "./keptDays";
import { storage } from "./storage";
import { withWaiting } from "./useOutbox";

type Today = Schemas["TodayReport"];
type Thing = Schemas["DayThing"];

const thing = (part: Partial<Thing>): Thing => ({
  key: "d1",
  kind: "drive",
  text: "Drive",
  at: "2026-06-08T09:00:00+01:00",
  until: "2026-06-08T10:00:00+01:00",
  worth: { ah: 1, wh: 12 },
  worth_text: "",
  state: "ahead",
  by: "",
  went: "",
  entries: [],
  did: "drove",
  did_not: "no_drive",
  ...part,
});
const day: Today = {
  now: "2026-06-08T05:40:00+01:00",
  day: "Mon 8",
  day_index: 2,
  sky: null,
  question: null,
  became: null,
  level: { low: 50, middle: 57, high: 64 },
  headline: "Tonight is safe.",
  tonight: "safe",
  safe: true,
  things: [thing({})],
  yesterday: [],
  course: null,
  read: null,
  expected: [],
  rest: "",
  ahead: [
    {
      date: "2026-06-09",
      day: "Tue 9",
      things: [thing({ key: "d2", at: "2026-06-09T09:00:00+01:00" })],
      dawn: {
        at: "2026-06-10T06:00:00+01:00",
        name: "at dawn",
        level: { low: 17, middle: 31.2, high: 40 },
      },
    },
  ],
  last_percent: null,
  last_volts: null,
  last_ah_in: null,
  last_ah_out: null,
};

const TRIP = { planId: 1, dataFile: "0123456789ab", tripKey: "aaaa", title: "Moth survey" };

describe("a day that was kept", () => {
  it("goes on with the trip's days, by the clock of the trip's own zone", () => {
    // 23:30 in UTC is half past midnight there.
    const at = localNow(day, Date.parse("2026-06-08T23:30:00Z"));
    expect(at).toBe("2026-06-09T00:30");
    const next = dayOn(day, at.slice(0, 10), 20);
    expect(next.day).toBe("Tue 9");
    expect(next.things.map((one) => one.key)).toEqual(["d2"]);
    // What was said of Monday's night is not said of Tuesday's.
    expect(next.headline).toBe("At dawn it may stand at about 31 %, as was expected on Mon 8.");
    expect(next.safe).toBe(false);
    expect(next.rest).toBe("");
  });

  it("stays where it was known when the trip is not now", () => {
    expect(localNow(day, Date.parse("2027-01-01T12:00:00Z"))).toBe("2026-06-08T05:40");
    expect(localNow(day, Date.parse("2026-06-01T12:00:00Z"))).toBe("2026-06-08T05:40");
    expect(dayOn(day, "2026-06-08", 20)).toBe(day);
  });

  it.each([
    [0, "a moment ago"],
    [45, "45 minutes ago"],
    [180, "3 hours ago"],
    [3 * 1440, "3 days ago"],
  ])("says how old it is: %i minutes", (minutes, words) => {
    const now = Date.parse("2026-06-08T12:00:00Z");
    expect(ageWords(new Date(now - minutes * 60_000).toISOString(), now)).toBe(words);
  });

  it("shows what was ticked and waits", () => {
    const waiting = (kind: string, at: string, refused?: string) => [
      { key: "k", ...TRIP, says: "", writtenAt: "", refused, entry: { kind, at, note: "" } },
    ];
    const state = (...asked: Parameters<typeof waiting>) =>
      withWaiting(day, waiting(...asked) as never).things[0]?.state;
    expect(state("drove", "2026-06-08T09:00")).toBe("did");
    expect(state("no_drive", "2026-06-08T09:00")).toBe("did_not");
    expect(state("drove", "2026-06-07T09:00")).toBe("ahead");
    expect(state("drove", "2026-06-08T09:00", "no")).toBe("ahead");
    expect(state("full", "2026-06-08T09:00")).toBe("ahead");
  });

  it("is shown of the data file that answered last alone", async () => {
    const kept = { floor: 20, keptAt: "2026-06-08T05:40:00Z", day };
    meetDataFile(new Response(null, { headers: { "data-file": TRIP.dataFile } }));
    await storage.keepDay({ ...TRIP, ...kept });
    await storage.keepDay({ ...TRIP, planId: 2, title: "Later", ...kept, keptAt: "2026-06-09" });
    await storage.keepDay({ ...TRIP, dataFile: "ffffffffffff", title: "Another's", ...kept });
    expect((await keptDays()).map((one) => one.title)).toEqual(["Later", "Moth survey"]);
    meetDataFile(new Response(null, { headers: { "data-file": "ffffffffffff" } }));
    expect((await keptDays()).map((one) => one.title)).toEqual(["Another's"]);
  });
});
