import { screen, waitFor, within } from "@testing-library/dom";
import { describe, expect, it } from "vitest";
import { answerInstead } from "../../testing/browser";
import {
  choose,
  get,
  gone,
  openPage,
  press,
  says,
  settled,
  show,
  type,
  unfold,
  user,
} from "../../testing/page";

const SOUND = /^12 circuits/;
const sheet = async () => within(await get("complementary", /chosen circuit/));

describe("a circuit", () => {
  it("opens from its wire with its sums, and stands in the address", async () => {
    await openPage("build");
    await press("button", /^Circuit 4, DC-DC charger, feed/);
    await get("heading", /^4 . DC-DC charger, feed/, await sheet());
    await unfold(/How it was made/, await sheet());
    // 2 x 5 m x 0.0172 / 16 mm2 x 33.7 A
    await says("how", /= 0\.30 V, 2\.1 % of 14\.2 V; 3 % allowed/);
    const { search } = window.location;
    await show(`build${search}`);
    await get("heading", /^4 . DC-DC charger, feed/, await sheet());
  });

  it("with a thin cable is a danger until its remedy is pressed", async () => {
    await openPage("build?circuit=charge-dcdc");
    await says("headline", SOUND);
    await choose("Cable", "1.5 mm²");
    await says("headline", /Not safe yet: .*DC-DC charger, output: a fuse/);
    await get("row", /1\.5 mm².*fixed by you/);
    await press("button", /6 mm²/, within(await screen.findByTestId("judged-fuse-over-cable")));
    await says("headline", SOUND);
    await settled();
    await press("button", /^Undo/);
    await says("headline", /Not safe yet/);
    await press("button", /tool choose all/);
    await says("headline", SOUND);
  });

  it("past the shunt is told, and the fault finder knows of it", async () => {
    await openPage("build?circuit=inverter");
    await press("radio", /^battery side/);
    await says("headline", /battery.s side of the shunt/);
    await press("radio", /^Fault finder/);
    await press("radio", /^the meter/);
    const finder = within(await get("region", /^Fault finder/));
    await finder.findByText(/circuit 7 does/);
    // What is asked shows something else: that is it.
    await press("button", "No", finder);
    await says("found", /load side/);
    await press("button", /not it/, finder);
    await finder.findByText(/Question 2 of/);
    await press("button", /^Back/, finder);
    await finder.findByText(/Question 1 of/);
  });

  it("of no length is refused where it is typed", async () => {
    await openPage("build?circuit=charge-mains");
    await type(/^Run, one way/, "0");
    expect((await screen.findByRole("alert")).textContent).toMatch(
      /0 is too little\. Enter 0\.05 to 60 m/,
    );
    await type(/^Run, one way/, "2.5");
    await get("row", /Mains charger, output.*2\.5 m/);
    // Ten amperes over 2.5 m want 4 mm2.
    expect((await get("combobox", "Cable")).textContent).toMatch(/tool: 4 mm²/);
  });

  it("of AWG is chosen for those who buy it", async () => {
    await openPage("build");
    await press("radio", "AWG");
    await get("row", /^1 ?Battery.*AWG/);
    await press("radio", /^mm/);
  });

  it("has its outlet of one's own, which is named, filled and given back", async () => {
    await openPage("build");
    await says("headline", SOUND);
    await press("button", /^Add a 12 V outlet/);
    await says("headline", /^13 circuits/);
    await get("heading", /^12 . Spare 12 V outlet/, await sheet());
    // Whatever is foreseen, an outlet is made for ten amperes.
    expect((await get("combobox", "Rating", await sheet())).textContent).toMatch(/tool: 10 A/);
    await type(/^Outlet.s name/, "Tailgate");
    await get("button", /^Circuit 12, Tailgate/);
    await settled();
    await show("build?circuit=shared-1");
    await choose(/^Plug of Light trap/, /at 12, Tailgate/);
    await gone("combobox", /^Plug of Light trap/);
    await settled();
    await show("build?circuit=own-1");
    await get("combobox", /^Plug of Light trap/);
    await press("button", /^Leave this outlet/);
    await says("headline", SOUND);
  });

  it("without a fuse is judged, and the judgement leads to it", async () => {
    await openPage("build?circuit=outlet-kettle");
    await choose("Protection", "nothing");
    await settled();
    await show("use");
    await user.keyboard("j");
    const card = within(await screen.findByTestId("judged-circuit-unfused"));
    await press("link", /show the part/, card);
    await get("heading", /^9 . 12 V kettle/);
  });

  it("of mains is named, bought and left to licensed people", async () => {
    await openPage("build?view=circuits");
    const outlets = within(await get("region", /^Mains outlets/));
    await press("button", /^Add a mains outlet/, outlets);
    await outlets.findByText(/licensed work/);
    await type(/^Outlet.s name/, "Desk", outlets);
    await settled();
    await show("build?view=parts");
    await get("row", /Mains outlet, Desk/);
    await get("row", /Residual-current device/);
  });
});

describe("parts to buy", () => {
  it("take a price of one's own, and what is owned is not paid again", async () => {
    await openPage("build?view=parts");
    await press("button", /price, weight and size of Inverter, 300 W/);
    await type(/^Price of one/, "80");
    const row = await get("row", /Inverter, 300 W/);
    await waitFor(() => expect(row.textContent).toMatch(/80/));
    expect(row.textContent).not.toMatch(/ to /);
    await user.keyboard("{Escape}");
    const aside = within(await get("complementary", /comes to/));
    const before = aside.getByRole("heading").textContent;
    await press("checkbox", /^Have Inverter, 300 W/);
    await waitFor(() => expect(aside.getByRole("heading").textContent).not.toBe(before));
    await says("ready-made", /lasts in \d+ of 100, the unit in \d+/, aside);
  });

  it("take prices from a table, and a bad one changes nothing", async () => {
    await openPage("build?view=parts");
    const file = (text: string) => new File([text], "prices.csv");
    const input = await screen.findByLabelText(/^Prices from a CSV/);
    await user.upload(input, file("part,euro_each,owned\nshunt,61,yes\nflux,1,no\n"));
    expect((await screen.findByRole("status")).textContent).toMatch(/1 are not of this box: flux/);
    await waitFor(async () =>
      expect((await get("row", /Shunt with monitor/)).textContent).toMatch(/61/),
    );
    await user.upload(input, file("part,euro_each\nshunt,cheap\n"));
    expect((await screen.findByRole("alert")).textContent).toMatch(/Line 2 says 'cheap'/);
    expect((await get("row", /Shunt with monitor/)).textContent).toMatch(/61/);
  });

  it("are compared with the price of a unit in a shop", async () => {
    await openPage("build?view=parts");
    const aside = within(await get("complementary", /comes to/));
    await press("button", /^Type the price/, aside);
    await type(/^Its price/, "777");
    await type(/^On its label/, "900");
    await settled();
    await says("ready-made", /of 900 Wh: € 777/, aside);
    await press("button", /^Compare with a usual one/, aside);
    await says("ready-made", /as much as this box/, aside);
  });
});

describe("the box", () => {
  it("that is smaller than its battery is told by the millimetre", async () => {
    await openPage("build?view=fit");
    for (const [label, value] of [
      ["Inner length", "300"],
      ["Inner width", "200"],
      ["Inner height", "230"],
    ] as const) {
      await type(label, value);
      await settled();
    }
    // 215 mm of battery and 40 above it in 230.
    await says("fit-verdict", /does not fit by 36 mm in length/);
    await says("fit-verdict", /smallest usual box/);
  });

  it("that is a ready-made unit is not built", async () => {
    await openPage("build", "coast-unit");
    await says("headline", /Nothing is built inside; 2 leads/);
    await screen.findByText(/unit is never opened/);
    await within(await get("region", /^What goes in/)).findAllByText(/Folding panel/);
    expect(screen.queryByRole("radio", { name: /Box fit/ })).toBeNull();
  });
});

describe("checks", () => {
  it("are ticked with their date, kept, and begun again", async () => {
    await openPage("build?view=checks");
    await press("checkbox", /Every stud and screw/);
    await screen.findByText(/ticked \w+ \d+ 20\d\d-/);
    await screen.findByText(/1 of 27 done/);
    await show("build?view=checks");
    const again = (await get("checkbox", /Every stud and screw/)) as HTMLInputElement;
    await waitFor(() => expect(again.checked).toBe(true));
    await press("button", /^Start this list/);
    await screen.findByText(/last \w+ \d+ 20\d\d-/);
    await show("log");
    await screen.findByText(/Before first power: Every stud and screw/);
    await says("headline", /Nothing is logged yet/);
  });

  it("that cannot be kept are taken back, and that is said", async () => {
    await openPage("build?view=checks");
    const torque = (await get("checkbox", /Every stud and screw/)) as HTMLInputElement;
    const letThrough = answerInstead(/\/ticks/, () => {
      throw new TypeError("the line is cut");
    });
    await press("checkbox", /Every stud and screw/);
    expect((await screen.findByRole("alert")).textContent).toMatch(/was not kept/);
    expect(torque.checked).toBe(false);
    letThrough();
    await user.click(torque);
    await screen.findByText(/1 of 27 done/);
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("say what the meter should show, from the model of this plan", async () => {
    await openPage("build?view=checks");
    const line = (await screen.findByText(/Mains charger on, battery at 60 %/)).closest("li");
    expect(line?.textContent).toMatch(/expect 13\.2 to 13\.3 V, 9\.0 to 10\.0 A in/);
  });
});

describe("prints", () => {
  it("come from their links", async () => {
    await openPage("build?view=print");
    await screen.findByText(/A battery never switches off/);
    for (const name of ["booklet.pdf", "template.pdf", "schematic.svg", "parts.csv"]) {
      const link = document.querySelector(`a[href$='/print/${name}']`);
      const answer = await fetch(link?.getAttribute("href") ?? "");
      expect(answer.ok, name).toBe(true);
      expect((await answer.arrayBuffer()).byteLength, name).toBeGreaterThan(1000);
    }
  });
});
