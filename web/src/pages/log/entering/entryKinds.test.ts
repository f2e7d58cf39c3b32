import { describe, expect, it } from "vitest";
import type { LogEntry, Plan } from "../../../api/client";
import { NO_SOURCES } from "../../../testing/boxes";
import {
  type Draft,
  draftOf,
  earlier,
  endOf,
  entryOf,
  freshDraft,
  KINDS,
  kindsOf,
  specOf,
} from "./entryKinds";

const NOW = "2026-06-08T21:40+01:00";

function draft(part: Partial<Draft>): Draft {
  return { ...freshDraft("monitor_percent", NOW, "trap"), ...part };
}

function text(part: Partial<Draft>): Partial<Record<string, string>> {
  const checked = entryOf(draft(part));
  return checked.ok ? {} : checked.refusals;
}

describe("an entry being typed", () => {
  it("begins at now, so that a figure is enough", () => {
    const checked = entryOf(draft({ numbers: { value: "58" } }));
    expect(checked).toEqual({
      ok: true,
      entry: { kind: "monitor_percent", at: "2026-06-08T21:40:00", value: 58, note: "" },
    });
  });

  it("takes a decimal comma and a true minus", () => {
    const checked = entryOf(draft({ kind: "net_amps", numbers: { value: "−3,5" } }));
    expect(checked.ok && checked.entry.value).toBe(-3.5);
  });

  it.each([
    ["", /Nothing is typed/],
    ["140", /140 is too much. Enter 0 to 100 %/],
    ["-1", /-1 is too little/],
    ["half", /is not a number/],
  ])("refuses %s with value, limit and remedy", (value, wanted) => {
    expect(text({ numbers: { value } }).value).toMatch(wanted);
  });

  it("needs one of the four counters, and no more than one", () => {
    expect(text({ kind: "counters" }).ah_out).toMatch(/at least one/);
    const checked = entryOf(draft({ kind: "counters", numbers: { wh_in: "300" } }));
    expect(checked.ok && checked.entry).toMatchObject({ wh_in: 300 });
  });

  it("takes two meters, one at the sources and one at the loads", () => {
    expect(text({ kind: "two_meters" }).gross_out).toMatch(/at least one/);
    const numbers = { gross_in: "40", gross_out: "52" };
    const checked = entryOf(draft({ kind: "two_meters", numbers, sinceDay: "2026-06-06" }));
    expect(checked.ok && checked.entry).toMatchObject({
      gross_in: 40,
      gross_out: 52,
      since: "2026-06-06T00:00:00",
    });
  });

  it("tells since when the counters ran only where a day is chosen", () => {
    const numbers = { ah_out: "50" };
    const plain = entryOf(draft({ kind: "counters", numbers }));
    expect(plain.ok && "since" in plain.entry).toBe(false);
    const since = entryOf(draft({ kind: "counters", numbers, sinceDay: "2026-06-06" }));
    expect(since.ok && since.entry.since).toBe("2026-06-06T00:00:00");
  });

  it("wants an end where something lasts", () => {
    expect(text({ kind: "drove" }).until).toMatch(/Nothing is typed/);
    expect(text({ kind: "drove", until: "26:00" }).until).toMatch(/not a time of day/);
  });

  it("ends on the next day where its end is not later than its start", () => {
    expect(endOf("2026-06-08", "21:00", "04:00")).toBe("2026-06-09T04:00:00");
    expect(endOf("2026-06-08", "21:00", "22:00")).toBe("2026-06-08T22:00:00");
    expect(endOf("2026-06-30", "21:00", "24:00")).toBe("2026-07-01T00:00:00");
  });

  it("names its appliance only where it is about one", () => {
    const off = entryOf(draft({ kind: "skipped", until: "23:00" }));
    expect(off.ok && off.entry.appliance).toBe("trap");
    const drove = entryOf(draft({ kind: "drove", until: "23:00" }));
    expect(drove.ok && "appliance" in drove.entry).toBe(false);
  });

  it("tells of a whole day at its noon", () => {
    const sky = entryOf(draft({ kind: "sky", sky: "overcast", clock: "nonsense" }));
    expect(sky.ok && sky.entry).toMatchObject({ at: "2026-06-08T12:00:00", sky: "overcast" });
  });

  it("keeps every fault apart, so that all are seen at once", () => {
    expect(Object.keys(text({ clock: "25:00", numbers: { value: "x" } })).sort()).toEqual([
      "clock",
      "value",
    ]);
  });
});

describe("an entry that is corrected", () => {
  const entry: LogEntry = {
    id: 3,
    at_utc: "2026-06-08T20:00:00+00:00",
    at_local: "2026-06-08T21:00+01:00",
    step: 828,
    kind: "skipped",
    value: 0,
    detail: { until: "2026-06-09T04:00:00+01:00", appliance: "trap" },
    text: "Light trap off until 04:00",
    note: "windy",
    written_at: "2026-06-09T08:00:00+00:00",
    written_by: "by hand",
    replaces: null,
    low_percent: null,
    mid_percent: null,
    high_percent: null,
    planned_percent: 50,
    against: "",
    was: "",
    worth: "",
  };

  it("comes back as it was typed", () => {
    const again = entryOf(draftOf(entry));
    expect(again.ok && again.entry).toMatchObject({
      kind: "skipped",
      at: "2026-06-08T21:00:00",
      until: "2026-06-09T04:00:00",
      appliance: "trap",
      note: "windy",
    });
  });
});

describe("the kinds", () => {
  it("are each told once", () => {
    const kinds = KINDS.map((spec) => spec.kind);
    expect(new Set(kinds).size).toBe(kinds.length);
    for (const kind of kinds) expect(specOf(kind).text).not.toBe("");
  });
});

describe("a moment some time ago", () => {
  it("passes midnight and months", () => {
    expect(earlier("2026-06-08T21:40", 60)).toBe("2026-06-08T20:40");
    expect(earlier("2026-07-01T00:30:00+01:00", 60)).toBe("2026-06-30T23:30");
  });
});

describe("kinds of entry", () => {
  it("of a hydrometer are offered for flooded lead alone", () => {
    const kinds = (chemistry: string) =>
      kindsOf({ box: { ...NO_SOURCES, battery: { chemistry } } } as unknown as Plan).map(
        ({ kind }) => kind,
      );
    expect(kinds("flooded")).toContain("hydrometer");
    expect(kinds("lifepo4")).not.toContain("hydrometer");
  });

  it("of a generator are offered where there is one", () => {
    const box = (generator: object[]) =>
      ({ box: { battery: { chemistry: "lifepo4" }, ...NO_SOURCES, generator } }) as unknown as Plan;
    const kinds = (plan: Plan) => kindsOf(plan).map((spec) => spec.kind);
    expect(kinds(box([]))).not.toContain("generator_ran");
    expect(kinds(box([]))).toContain("drove");
    expect(kinds(box([{ id: "g" }]))).toContain("generator_ran");
  });
});
