import { fireEvent, screen, waitFor } from "@testing-library/dom";
import { describe, expect, it } from "vitest";
import {
  choose,
  field,
  get,
  gone,
  openPage,
  press,
  says,
  settled,
  show,
  stored,
  type,
  user,
} from "../../testing/page";

/** Each day's lowest level, once the figures are those of the plan. */
async function lowest(): Promise<string[]> {
  await settled();
  return screen.getAllByTestId("lowest").map((one) => one.textContent ?? "");
}

describe("the trip", () => {
  it("says how long the box lasts in an outage, and follows its blocks", async () => {
    await openPage("trip?view=days", "canal-standby");
    await says("headline", /Without mains .*\d+ h/);
    const said = screen.getByTestId("headline").textContent;
    expect(screen.getAllByRole("button", { name: /^outage,/ })).toHaveLength(2);
    fireEvent.keyDown(await get("button", /^outage,/), { key: "Delete" });
    await gone("button", /^outage,/);
    await waitFor(() => expect(screen.getByTestId("headline").textContent).not.toBe(said));
    await press("button", /^outage$/);
    await get("button", /^outage,/);
  });

  it("is walked by keys where it lasts months", async () => {
    await openPage("trip?view=days", "gauging-hut");
    expect(screen.getAllByRole("group", { name: /level and blocks/ })).toHaveLength(14);
    fireEvent.keyDown(await get("slider", /^First day on the board/), { key: "Home" });
    await get("button", /^Tue 10 Mar hut/);
  });

  it("takes a frosty day that is typed into its menu", async () => {
    await openPage("trip?view=days");
    await press("button", /^Mon 8 .*change the day/);
    await type("Coldest", "-11");
    await screen.findByText(/−11 to 11°/);
    expect((await stored()).trip.days[2]).toMatchObject({ low_c: -11 });
  });

  it("says at its cursor how long the box lasts alone", async () => {
    await openPage("trip?view=days");
    const cursor = await get("slider", /^Cursor over the trip/);
    for (let step = 0; step < 4; step++) fireEvent.keyDown(cursor, { key: "ArrowUp" });
    await waitFor(() =>
      expect(cursor.getAttribute("aria-valuetext")).toMatch(/with no charging it lasts \d/),
    );
  });

  it("refuses a block in the hour that the clocks skip", async () => {
    await openPage("trip?view=days", "coast-weekend");
    const cursor = await get("slider", /^Cursor over the trip/);
    const at = () => cursor.getAttribute("aria-valuetext") ?? "";
    fireEvent.keyDown(cursor, { key: "Home" });
    for (let step = 0; step < 8 && !at().includes("Sun 29"); step++) {
      const before = at();
      fireEvent.keyDown(cursor, { key: at().includes("Mon 30") ? "ArrowUp" : "ArrowDown" });
      if (at() === before) fireEvent.keyDown(cursor, { key: "ArrowUp" });
    }
    expect(at()).toMatch(/Sun 29/);
    await press("button", /^panel out$/);
    const block = await get("button", /^panel out, Sun 29/);
    await settled();
    fireEvent.keyDown(block, { key: "Enter" });
    await type("From", "02:30");
    await screen.findByText(/02:30 does not exist on Sun 29 Mar/);
    await get("button", /^panel out, Sun 29.*09:00 to 17:00/);
  });

  it("moves its blocks by keys, from day to day, and takes them out", async () => {
    await openPage("trip?view=days");
    const before = await lowest();
    (await get("button", /^drive, Tue 9.*09:30 to 10:45/)).focus();
    await user.keyboard("{ArrowRight}");
    await get("button", /^drive, Tue 9.*09:35 to 10:50/);
    await user.keyboard("{Shift>}{ArrowRight>12/}{/Shift}");
    await get("button", /^drive, Tue 9.*09:35 to 11:50/);
    expect(await lowest()).not.toEqual(before);
    await user.keyboard("{ArrowDown}");
    (await get("button", /^drive, Wed 10.*09:35 to 11:50/)).focus();
    await user.keyboard("{Delete}");
    await gone("button", /^drive, Wed 10/);
  });

  it("takes times that are typed, and refuses nonsense where it is typed", async () => {
    await openPage("trip?view=days");
    (await get("button", /^drive, Tue 9/)).focus();
    await user.keyboard("{Enter}");
    await type("To", "08:00");
    expect((await screen.findByRole("alert")).textContent).toMatch(
      /from 09:30 cannot end at 08:00.*after 09:30/,
    );
    await type("To", "26:99");
    expect((await screen.findByRole("alert")).textContent).toMatch(/is not a time of day/);
    await type("To", "11:15");
    await get("button", /^drive, Tue 9.*09:30 to 11:15/);
  });

  it("is mended by the drive that it proposes", async () => {
    await openPage("trip?view=days");
    await press("button", /^Drive \d+ min on Thu 11/);
    await says("detail", /lasts all nine days/);
  });

  it("has a day's sky changed by a press", async () => {
    await openPage("trip?view=days");
    const before = await lowest();
    await press("button", /^Sky on Thu 11: overcast/);
    await press("menuitemradio", "clear");
    await get("button", /^Sky on Thu 11: clear/);
    expect((await lowest())[6]).not.toBe(before[6]);
  });

  it("gains and loses days with their blocks", async () => {
    await openPage("trip?view=days");
    await press("button", /^Sat 6 .*change the day/);
    await press("button", /^Add a day after/);
    await waitFor(async () => expect(await lowest()).toHaveLength(10));
    await get("button", /^drive, Wed 10/);
    await press("button", /^Wed 10 .*change the day/);
    await press("button", /^Remove this day/);
    await waitFor(async () => expect(await lowest()).toHaveLength(9));
    await gone("button", /^drive, Wed 10/);
  });

  it("reads any moment at its cursor", async () => {
    await openPage("trip?view=days");
    const cursor = await get("slider", /^Cursor over the trip/);
    const text = () => cursor.getAttribute("aria-valuetext") ?? "";
    expect(text()).toMatch(
      /^Fri 12, \d\d:\d\d: \d+ %, [\d.]+ V, [+−][\d.]+ A, battery at −?\d+ °C, under your reserve$/,
    );
    fireEvent.keyDown(cursor, { key: "ArrowUp" });
    await waitFor(() => expect(text()).toMatch(/^Thu 11, .* h to your reserve/));
  });

  it("gets blocks by a button and by a key", async () => {
    await openPage("trip?view=days");
    await press("button", "drive");
    await get("button", /^drive, Fri 12,/);
    (await get("slider", /^Cursor over the trip/)).focus();
    await user.keyboard("h");
    await get("button", /^hook-up, Fri 12,/);
  });

  it("opens a day's figures to their sum, in either unit", async () => {
    await openPage("trip?view=days");
    await press("button", /^Thu 11, Ah:/);
    const lines = (await screen.findAllByRole("rowheader")).map((line) => line.textContent).join();
    for (const part of [/Roof and folding panel/, /Cool box/, /Lost in the battery/, /Out/])
      expect(lines).toMatch(part);
    await user.keyboard("{Escape}");
    await press("radio", "Wh");
    await gone("button", /^Thu 11, Ah:/);
    await get("button", /^Thu 11, Wh: ?in ?\d{3}/);
  });

  it("refuses a place that cannot be, and stays as it was", async () => {
    await openPage("trip?view=days");
    await press("button", /^Place and start/);
    await type("Latitude", "123");
    expect((await screen.findByRole("alert")).textContent).toMatch(
      /123 is too much\. Enter -90 to 90/,
    );
    await type(/^Time zone/, "Moor/Nowhere");
    await waitFor(() =>
      expect(
        screen
          .getAllByRole("alert")
          .map((one) => one.textContent)
          .join(),
      ).toMatch(/no time zone called 'Moor\/Nowhere'/),
    );
    expect(JSON.stringify(await stored())).toContain("Europe/London");
  });

  it("has its reserve moved by keys", async () => {
    await openPage("trip?view=days");
    const floor = await get("slider", /^Reserve/);
    for (let step = 0; step < 20; step++) fireEvent.keyDown(floor, { key: "ArrowDown" });
    await says("detail", /lasts all nine days/);
    expect((await stored()).trip.floor_percent).toBe(0);
  });
});

describe("a place", () => {
  it("is found by its name, brings its zone and climate, and reads a weather file", async () => {
    await openPage("trip?view=days");
    await press("button", /^Place and start/);
    await user.type(await screen.findByLabelText(/^Find a place/), "zurich");
    await press("button", /Zürich, Switzerland/);
    await waitFor(async () => expect(JSON.stringify(await stored())).toContain("Europe/Zurich"));
    await says("place-year", /usual day of Ju(ne|ly) brings light/);
    const chooser = document.querySelector("input[type=file][accept*=epw]") as HTMLInputElement;
    await user.upload(chooser, new File(["no"], "notes.epw"));
    expect((await screen.findByRole("alert")).textContent).toMatch(/none of the kinds/);
  });

  it("is another stop, at which a day is spent", async () => {
    await openPage("trip?view=days");
    await press("button", /^Place and start/);
    await user.type(await screen.findByLabelText(/^Add a place by a town/), "nairobi");
    await press("button", /Nairobi, Kenya/);
    await waitFor(async () => expect((await field("Name")).value).toBe("Nairobi"));
    await settled();
    await show("trip?view=days");
    const before = await lowest();
    await press("button", /^Sun 7 .*change the day/);
    await choose(/^Sun and warmth of/, "Nairobi");
    expect(await lowest()).not.toEqual(before);
  });
});

describe("the curve of the trip", () => {
  it("chooses a day by press, by key and page by page, and shows it below", async () => {
    await openPage("trip");
    const chosen = () => screen.getByRole("region", { name: "The chosen day" });
    await waitFor(() => expect(chosen().textContent).toMatch(/Fri 12/));
    await press("button", /^Mon 8: .* in, .* out, lowest/);
    await waitFor(() => expect(chosen().textContent).toMatch(/Mon 8/));
    await user.keyboard("{ArrowRight}");
    await waitFor(() => expect(chosen().textContent).toMatch(/Tue 9/));
    expect(document.activeElement?.textContent).toMatch(/^Tue 9: /);
    await press("button", "The day after");
    await waitFor(() => expect(chosen().textContent).toMatch(/Wed 10/));
    // What its day has of blocks is there to be moved, and only that.
    expect(screen.queryAllByRole("button", { name: /^drive, Tue 9/ })).toHaveLength(0);
    await press("button", "The day before");
    await get("button", /^drive, Tue 9/);
  });

  it("says of each day what came in, what went out and how low it was", async () => {
    await openPage("trip");
    const days = screen.getAllByTestId("lowest").map((one) => one.textContent ?? "");
    await show("trip?view=days");
    expect(await lowest()).toEqual(days);
    const [first] = screen.getAllByRole("button", { name: /^Sat 6, Ah:/ });
    const [taken] = /\d+/.exec(first?.textContent?.replace(/^Sat 6, Ah:/, "") ?? "") ?? [];
    await show("trip");
    await get("button", new RegExp(`^Sat 6: ${taken} in`));
  });

  it("has each block in the lane of its kind, and a lane only for what the box has", async () => {
    await openPage("trip");
    const lane = (key: string) =>
      document.querySelectorAll(`[data-lane="${key}"] [data-lane-block]`);
    const { box, trip } = await stored();
    for (const [group, kind] of [
      ["vehicle", "drive"],
      ["mains", "hookup"],
      ["sun", "panel_out"],
    ] as const)
      expect([group, lane(group).length]).toEqual([
        group,
        trip.blocks.filter((block) => block.kind === kind).length,
      ]);
    expect(box.vehicle.length).toBeGreaterThan(0);
    await openPage("trip", "gauging-hut");
    expect(document.querySelector('[data-lane="vehicle"]')).toBeNull();
  });

  it("adds a block to the chosen day, and leads to all days", async () => {
    await openPage("trip");
    await press("button", /^Sun 7: /);
    await press("button", "drive");
    await get("button", /^drive, Sun 7/);
    await press("button", "all days");
    await waitFor(() =>
      expect(screen.getAllByRole("group", { name: /level and blocks/ })).toHaveLength(9),
    );
    await press("button", "one curve");
    await screen.findByTestId("trip-curve");
  });
});
