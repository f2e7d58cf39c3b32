import { fireEvent, screen, waitFor, within } from "@testing-library/dom";
import { describe, expect, it } from "vitest";
import {
  field,
  figure,
  get,
  gone,
  openPage,
  press,
  says,
  settled,
  show,
  stored,
  type,
  unfold,
  user,
} from "../../testing/page";

describe("an appliance", () => {
  it("has its hours moved by keys as well as by dragging", async () => {
    await openPage("use");
    (await get("button", /^Laptop, 20:30 to 22:30/)).focus();
    await user.keyboard("{Shift>}{ArrowRight}{/Shift}{ArrowLeft}");
    const moved = await get("button", /^Laptop, 20:25 to 22:30/);
    expect(document.activeElement).toBe(moved);
    const laptop = (await stored()).use.appliances.find(({ id }) => id === "laptop");
    expect(laptop?.hours?.[0]).toMatchObject({ start: "20:25", end: "22:30" });
  });

  it("is typed in watts or amps, and each shows the other", async () => {
    await openPage("use");
    await press("button", /^Light trap ?12 V/);
    const watts = await field(/^Power while it runs/);
    const amps = await field(/^or current at the battery/);
    const was = Number(amps.value);
    await type(/^Power while it runs/, "46");
    await waitFor(() => expect(Number(amps.value) / was).toBeCloseTo(2, 0));
    expect(Math.abs(Number(amps.value) / was - 2)).toBeLessThan(0.1);
    await type(/^or current at the battery/, "0,5");
    await waitFor(() => expect(watts.value).toMatch(/^6\.[3-9]/));
  });

  it("is told by what it takes a day, and its hours stay", async () => {
    await openPage("use");
    await press("button", /^Light trap ?12 V/);
    const daily = await field(/^It takes a day/);
    const hours = (await stored()).use.appliances.find(({ id }) => id === "trap")?.hours;
    await type(/^It takes a day/, "9");
    await waitFor(() => expect(Number(daily.value)).toBeCloseTo(9, 0));
    expect(Math.abs(Number(daily.value) - 9)).toBeLessThan(0.3);
    const trap = (await stored()).use.appliances.find(({ id }) => id === "trap");
    expect(trap?.hours).toEqual(hours);
  });

  it("refuses a negative power at its field, and Escape puts the old one back", async () => {
    await openPage("use");
    const headline = screen.getByTestId("headline").textContent;
    await press("button", /^Light trap ?12 V/);
    const watts = await field(/^Power while it runs/);
    await user.clear(watts);
    await user.type(watts, "-5");
    expect((await screen.findByRole("alert")).textContent).toMatch(
      /-5 is too little\. Enter 0\.001 to 5,000 W/,
    );
    await user.keyboard("{Escape}");
    expect(screen.queryByRole("alert")).toBeNull();
    expect(screen.getByTestId("headline").textContent).toBe(headline);
  });

  it("comes from the shelf, is measured, and goes again", async () => {
    await openPage("use");
    await press("button", "fan");
    const sheet = within(await get("dialog", "Fan"));
    expect((await field(/^Power while it runs/, sheet)).value).toBe("6");
    await press("radio", /^measured/, sheet);
    await get("button", /^Fan.*measured/);
    await press("button", /^Remove it/, sheet);
    await gone("button", /^Fan/);
  });

  it("changes places by keys", async () => {
    await openPage("use");
    (await get("button", /^Move Laptop/)).focus();
    await user.keyboard("{ArrowUp}");
    await waitFor(() =>
      expect(
        screen.getAllByRole("button", { name: /^Move / })[1]?.getAttribute("aria-label"),
      ).toMatch(/^Move Laptop/),
    );
  });

  it("is measured by two readings, which must rise", async () => {
    await openPage("use?open=laptop");
    await unfold("Measure it");
    await type("First reading", "3");
    await type("Second reading", "2");
    await type("Hours between", "2,5");
    const sheet = within(await get("dialog", /./));
    expect((await sheet.findByRole("alert")).textContent).toMatch(/must rise/);
    await type("Second reading", "13");
    await says("measured", /51\.2 W/);
    await press("button", /in place of the guess/);
    const measured = await get("radio", /^measured/);
    await waitFor(() => expect(measured.getAttribute("data-state")).toBe("on"));
    expect((await field(/^Power while it runs/)).value).toBe("45.06");
  });

  it("takes more where a fridge is set colder", async () => {
    await openPage("use");
    const before = await figure("strip-lowest");
    await press("button", /^Cool box, 28 L/);
    await type(/^Set to/, "-12");
    await waitFor(() => expect(screen.getByTestId("strip-lowest").textContent).not.toBe(before));
  });

  it("runs other hours on other days", async () => {
    await openPage("use?open=trap");
    // Its sheet opens by the address: closed by a key, and gone before anything else is pressed.
    await get("dialog", /Light trap/);
    await user.keyboard("{Escape}");
    await gone("dialog", /Light trap/);
    await press("radio", /^rest days/);
    await press("button", /^Light trap/);
    await press("switch", /^As on site/);
    await press("button", /^Remove the hours/);
    await screen.findByText(/does not run on such days/);
    await settled();
    await show("trip?view=days");
    const out = await get("button", /^Thu 11, Ah:/);
    const before = out.textContent;
    await press("button", /^Thu 11.*change the day$/);
    await press("radio", "rest day");
    await waitFor(() => expect(out.textContent).not.toBe(before));
  });
});

describe("what health hangs on", () => {
  it("never goes, as soon as it is marked", async () => {
    await openPage("use?open=laptop");
    await unfold(/^When the level falls, and more/);
    await press("switch", /must not lose power/);
    await gone("radio", "if needed");
    const laptop = (await stored()).use.appliances.find(({ id }) => id === "laptop");
    expect(laptop).toMatchObject({ medical: true, priority: "must" });
  });
});

describe("what goes first", () => {
  it("is switched off when the level falls, and that is said", async () => {
    await openPage("use");
    await unfold(/^When the battery is low/);
    await type(/off below/, "60", within(await get("region", /^Goes first/)));
    await type(/off below/, "50", within(await get("region", /^Goes if needed/)));
    await settled();
    await show("trip?view=days");
    await says("headline", /switching things off/);
  });

  it("is moved by keys from shelf to shelf", async () => {
    await openPage("use");
    await unfold(/^When the battery is low/);
    const board = within(await screen.findByTestId("first-to-go"));
    const first = () => within(board.getByRole("region", { name: /^Goes first/ }));
    for (let step = 0; step < 3 && !first().queryByRole("button", { name: /^Laptop/ }); step++)
      fireEvent.keyDown(await get("button", /^Laptop/, board), { key: "ArrowLeft" });
    fireEvent.keyDown(await get("button", /^Laptop/, first()), { key: "ArrowRight" });
    await get("button", /^Laptop/, within(board.getByRole("region", { name: /if needed/ })));
    const laptop = (await stored()).use.appliances.find(({ id }) => id === "laptop");
    expect(laptop?.priority).toBe("wanted");
  });
});

describe("a figure", () => {
  it("opens to its sum, leads on to the next, and back", async () => {
    await openPage("use");
    await press("button", /^65 Ah a day$/);
    const sheet = within(await screen.findByTestId("sum"));
    await sheet.findAllByText(/Use a day/);
    await press("button", /^Laptop/, sheet);
    await sheet.findByText(/lost in its converter/);
    expect(screen.getByTestId("sum").textContent).toMatch(/12 V to USB \[textbook]/);
    await press("button", /^Back/, sheet);
    await sheet.findByRole("button", { name: /Light trap/ });
    await user.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByTestId("sum")).toBeNull());
  });
});
