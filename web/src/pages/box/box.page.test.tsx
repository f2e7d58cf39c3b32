import { screen, waitFor, within } from "@testing-library/dom";
import { describe, expect, it } from "vitest";
import {
  choose,
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

async function add(part: RegExp): Promise<void> {
  await press("button", /Add a part/);
  await press("menuitem", part);
}

const undo = () => press("button", /^Undo/);
const battery = () => get("button", /^LiFePO4.* Battery/);

describe("the battery", () => {
  it("moves the level with lead of any kind, and says that half of it is usable", async () => {
    await openPage("box");
    const lithium = await figure("strip-lowest");
    for (const chemistry of [/AGM/, /Gel/, /Flooded/]) {
      await press("radio", chemistry);
      expect(await figure("strip-lowest")).not.toBe(lithium);
      expect(screen.getAllByText(/Half of it is usable/).length).toBeGreaterThan(0);
    }
  });

  it("brings its own voltages with another chemistry, and they go with it", async () => {
    await openPage("box");
    expect((await field("Absorption")).value).toBe("14.2");
    await press("radio", /AGM/);
    await waitFor(async () => expect((await field("Absorption")).value).toBe("14.4"));
    expect((await field("Float")).value).toBe("13.6");
    await settled();
    await undo();
    await waitFor(async () => expect((await field("Absorption")).value).toBe("14.2"));
  });

  it("says what to set on each part, and says it anew for another chemistry", async () => {
    await openPage("box");
    await unfold("What to set");
    const alarm = () => get("region", "Settings: Battery monitor");
    await waitFor(async () => expect((await alarm()).textContent).toMatch(/Peukert exponent1\.01/));
    await press("radio", /AGM/);
    await waitFor(async () => expect((await alarm()).textContent).toMatch(/Peukert exponent1\.12/));
    await settled();
    await undo();
  });

  it("lifts the lowest level where it is bigger", async () => {
    await openPage("box");
    const before = await figure("strip-lowest");
    await type(/^Capacity of one/, "150");
    expect(await figure("strip-lowest")).not.toBe(before);
    expect((await battery()).getAttribute("aria-label")).toMatch(/150 Ah/);
  });

  it("refuses a capacity out of bounds with value, limit and remedy", async () => {
    await openPage("box");
    await type(/^Capacity of one/, "10000");
    const said = await screen.findByRole("alert");
    expect(said.textContent).toMatch(/10000 is too much\. Enter 1 to 1,500 Ah/);
    expect((await battery()).getAttribute("aria-label")).toMatch(/90 Ah/);
    expect((await stored()).box.battery.capacity_ah).toBe(90);
  });

  it("refuses two in series on twelve volts, and says what would be right", async () => {
    await openPage("box");
    await type(/^In series/, "2");
    const said = (await screen.findAllByRole("alert"))[0];
    expect(said?.textContent).toMatch(/24 V, but this box runs at 12 V.*parallel/);
    await waitFor(async () => expect((await field(/^In series/)).value).toBe("1"));
  });

  it("refuses cells that do not make the box's voltage, and loses nothing", async () => {
    await openPage("box");
    await press("radio", /NMC/);
    await settled();
    await unfold(/^Charging/);
    await type(/^Cells in one/, "2");
    const said = await screen.findAllByRole("alert");
    expect(said[0]?.textContent).toMatch(/7\.4 V/);
    expect(screen.getAllByText(/3 to 4 cells|Use 4 cells/).length).toBeGreaterThan(0);
    expect((await stored()).box.battery.chemistry).toBe("nmc");
  });

  it("keeps a hundredth of a volt, typed with a comma", async () => {
    await openPage("box");
    await type("Absorption", "14,25");
    expect(JSON.stringify(await stored())).toContain('"absorption_v":14.25');
    await show("box");
    expect((await field("Absorption")).value).toBe("14.25");
  });

  it("moves the level while its slider is still held", async () => {
    await openPage("box");
    const before = await figure("strip-lowest");
    const thumb = await get("slider", /^Capacity of one/);
    thumb.focus();
    for (let step = 0; step < 8; step++) await user.keyboard("{ArrowRight}");
    await waitFor(async () => expect((await field(/^Capacity of one/)).value).toBe("130"));
    await waitFor(() => expect(screen.getByTestId("strip-lowest").textContent).not.toBe(before));
  });

  it("gets a curve of its own, which is read or refused with the reason", async () => {
    await openPage("box");
    const paste = async (text: string) => {
      const box = await field(/A level in % and volts/);
      await user.clear(box);
      await user.paste(text);
    };
    await unfold(/Its own voltage curve/);
    await user.click(await field(/A level in % and volts/));
    await paste("20 13.4\n90 12.9");
    await press("button", /Read the curve/);
    expect((await screen.findByRole("alert")).textContent).toMatch(/falls from 13\.40 V at 20 %/);
    expect((await field(/A level in % and volts/)).value).toBe("20 13.4\n90 12.9");
    await paste("90 13.36\n50 13.20\n20 12.90");
    await press("button", /Read the curve/);
    await says("curve-says", /3 points between 20 and 90 %/);
    expect(screen.getByRole("img", { name: /volts by level/ })).toBeTruthy();
    await settled();
    await press("button", /Leave the curve out/);
    await waitFor(() => expect(screen.queryByRole("img", { name: /volts by level/ })).toBeNull());
    await unfold(/in a steady discharge/);
    await press("button", /Read the curve/);
    expect((await screen.findByRole("alert")).textContent).toMatch(/current .* is missing/);
  });

  it("is caught where watt-hours were typed as amp-hours", async () => {
    await openPage("box?part=battery");
    await unfold(/Read its label/);
    expect((await screen.findByText(/CCA/)).textContent).toBeTruthy();
    await type(/^Capacity of one/, "1280");
    await press("button", /100 Ah/);
    await waitFor(async () => expect((await field(/^Capacity of one/)).value).toBe("100"));
  });

  it("says what another choice would cost, and tries it", async () => {
    await openPage("box?part=battery");
    await unfold(/What another choice would cost/);
    const school = await screen.findByTestId("school");
    await waitFor(() => expect(school.textContent).toMatch(/€ \d+.*\d kg.*\d+ years/));
    await press("button", /AGM/, within(school));
    const agm = await get("radio", /AGM/);
    await waitFor(() => expect(agm.getAttribute("data-state")).toBe("on"));
  });
});

describe("sources", () => {
  it("each say what limits them", async () => {
    await openPage("box");
    await press("button", /Roof and folding panel: could give/);
    await says("limit", /controller passes 8 A/);
    await type(/^Controller.s output limit/, "15");
    await says("limit", /the sun is the limit/);
  });

  it("are removed and added again", async () => {
    await openPage("box");
    const dcdc = /DC-DC charger: could give/;
    await press("button", dcdc);
    await press("button", /^Remove it/);
    await gone("button", dcdc);
    await add(/DC-DC charger$/);
    await get("button", dcdc);
  });

  it("of other kinds are added, with their own voltages, and let in in an order", async () => {
    await openPage("box");
    await add(/voltage-sensitive relay/);
    await says("limit", /h of drives/);
    await press("button", /^earlier/);
    expect((await screen.findAllByText(/2\. of 4/)).length).toBe(1);
    await settled();
    await add(/trickle charger/);
    expect((await field("Absorption")).value).toBe("13.7");
    await press("button", /^Each charger by itself/);
    const order = within(await get("list", /Order in which/));
    expect(order.getAllByRole("listitem")).toHaveLength(5);
  });

  it("share the one limit of a combined charger", async () => {
    await openPage("box");
    const before = await figure("strip-lowest");
    await press("button", /^Each charger by itself/);
    await press("radio", /one combined charger/);
    await type(/one output limit/, "6");
    await settled();
    const sun = await get("button", /Roof and folding panel: could give/);
    await waitFor(() => expect(sun.getAttribute("aria-label")).toMatch(/− [1-9]\d* held back/));
    expect(await figure("strip-lowest")).not.toBe(before);
  });

  it("are kept away by a selector while another gives", async () => {
    await openPage("box");
    await press("button", /^Each charger by itself/);
    await press("radio", /a selector switch/);
    await get("button", /Roof and folding panel: could give.*kept away/);
  });

  it("are starved by a thin feed cable, which is said", async () => {
    await openPage("box");
    await press("button", /DC-DC charger: could give/);
    await unfold(/Cable and alternator/);
    await type("Copper", "2.5");
    await type(/^Cable, one way/, "9");
    await says("limit", /able, the fuse or the alternator passes as little as/);
    expect((await screen.findAllByText(/its input is held down/)).length).toBeGreaterThan(0);
  });

  it("have a label that is checked where it is typed", async () => {
    await openPage("box");
    await press("button", /Roof and folding panel: could give/);
    await unfold(/Enter its whole label/);
    expect((await field("Vmp")).value).toBe("18");
    await type("Vmp", "24");
    expect((await screen.findAllByRole("alert"))[0]?.textContent).toMatch(/not below Voc/);
  });

  it("show the flows of a chosen day", async () => {
    await openPage("box");
    await press("button", "The day before");
    await get("radio", /^Thu 11/);
    await get("button", /DC-DC charger: could give 0\.0 = 0\.0 Ah/);
  });

  it("stay at home, are off, or are there twice", async () => {
    await openPage("box?part=sun:panels");
    const before = await figure("strip-lowest");
    await user.click(screen.getAllByRole("switch", { name: /It comes along/ })[1] as HTMLElement);
    await waitFor(() => expect(screen.getByTestId("strip-lowest").textContent).not.toBe(before));
    await press("switch", /^It is there/);
    await get("button", /Roof and folding panel, off/);
    expect((await stored()).box.sun?.[0]?.on).toBe(false);
    await show("box?part=mains:mains");
    await press("button", /^Duplicate it/);
    await waitFor(async () => expect((await field("Name")).value).toMatch(/another/));
  });

  it("have a generator's hours, and a place where it must not stand", async () => {
    await openPage("box");
    await add(/fuel generator/);
    const sheet = within(await get("complementary", /Sheet of the chosen part/));
    expect(await sheet.findByText(/No run of the generator/)).toBeTruthy();
    await press("radio", /^inside/);
    expect(await sheet.findByText(/holds carbon monoxide/)).toBeTruthy();
    await press("radio", /^in the open/);
    await waitFor(() => expect(sheet.queryByText(/holds carbon monoxide/)).toBeNull());
    // The usual caution stands there whatever its place is.
    expect(sheet.getAllByText(/Exhaust kills/).length).toBeGreaterThan(0);
    await settled();
    await show("trip");
    await press("button", /^generator$/);
    expect(await screen.findAllByRole("button", { name: /^generator, / })).toHaveLength(1);
    await settled();
    await show("box");
    await press("button", /Fuel generator: could give|[Gg]enerator: could give/);
    expect((await screen.findAllByText(/On this trip it put in/)).length).toBe(1);
    expect((await screen.findAllByText(/runs 2\.0 h on this trip/)).length).toBe(1);
  });

  it("have a load output, on which a lamp hangs, and which must not chatter", async () => {
    await openPage("box");
    await press("button", /Roof and folding panel: could give/);
    await unfold("Its load output");
    await press("button", /^Something hangs/);
    await press("switch", /12 V kettle hangs/);
    // Its 140 W are more than the 10 A that such an output gives.
    expect((await screen.findAllByText(/load output 1\d\.\d A/)).length).toBeGreaterThan(0);
    await type("comes back above", "11.0");
    expect((await screen.findAllByRole("alert"))[0]?.textContent).toMatch(/would chatter/);
    await type("comes back above", "12.6");
    await settled();
    await press("button", /^Nothing hangs/);
    await get("button", /^Something hangs/);
  });

  it("have a second absorption and charge anew after days", async () => {
    await openPage("box?part=mains:mains");
    await unfold(/^Voltages and noise/);
    await press("switch", /voltages of its own/);
    await type("Second absorption", "15.2");
    await settled();
    expect((await screen.findAllByText(/15\.2 V in a second absorption/)).length).toBeGreaterThan(
      0,
    );
    await type(/^Charges anew after/, "14");
    expect((await stored()).box.mains?.[0]?.profile).toMatchObject({
      second_v: 15.2,
      refresh_days: 14,
    });
  });
});

describe("other parts", () => {
  it("bind an inverter by its socket's fuse", async () => {
    await openPage("box?part=inverter");
    await type(/12 V socket fused for/, "10");
    expect((await screen.findAllByText(/fused for 10 A it gives 78 W/)).length).toBeGreaterThan(0);
  });

  it("hold a panel to the input of a ready-made unit", async () => {
    await openPage("box", "coast-unit");
    await press("button", /^Ready-made, 1000 Wh/);
    await press("button", /^Add an input/);
    await press("switch", /^Folding panel goes in here/);
    await type(/^Takes at most/, "20");
    await settled();
    await press("button", /Folding panel: could give/);
    await says("limit", /input takes 20 W/);
  });

  it("warm the battery, without which it is too cold to charge", async () => {
    await openPage("box", "winter-caravan");
    await press("button", /^(Warmth|Temperature)/);
    await says("warmth", /./);
    expect(screen.getByTestId("warmth").textContent).not.toMatch(/Too cold to charge/);
    await press("button", /^Remove the pads/);
    await says("warmth", /Too cold to charge for/);
    await settled();
    await undo();
    await waitFor(() =>
      expect(screen.getByTestId("warmth").textContent).not.toMatch(/Too cold to charge/),
    );
  });

  it("have the judgement about them beside them, with its remedy", async () => {
    await openPage("box?part=warmth");
    await press("switch", /walls conduct/);
    await press("switch", /^Posts are covered/);
    const beside = within(screen.getByRole("complementary", { name: /Sheet/ }));
    await says("judged-conductive-enclosure", /lid or a spanner/, beside);
    await press("button", /capped now/, beside);
    await waitFor(() => expect(beside.queryByTestId("judged-conductive-enclosure")).toBeNull());
    const capped = screen.getByRole("switch", { name: /^Posts are covered/ });
    expect(capped.getAttribute("aria-checked")).toBe("true");
  });

  it.each([
    ["battery", /Lithium burns/],
    ["mains:mains", /Mains kills/],
    ["sun:panels", /panel in light is always live/],
    ["inverter", /An inverter makes mains/],
  ])("carry the caution of %s, with its source", async (part, caution) => {
    await openPage(`box?part=${part}`);
    const cautions = await screen.findByTestId("cautions");
    await user.click(within(cautions).getByText(caution));
    expect(cautions.textContent).toMatch(/textbook]/);
  });
});

describe("a mistake", () => {
  it("is counted, listed, mended by its button, and back after undo", async () => {
    await openPage("box?part=battery");
    const count = () => screen.getByTestId("judgement-count").getAttribute("aria-label") ?? "";
    const before = Number.parseInt(count(), 10);
    await type("Absorption", "15");
    await waitFor(() => expect(Number.parseInt(count(), 10)).toBe(before + 1));
    await settled();
    await user.click(screen.getByTestId("judgement-count"));
    const listed = within(await screen.findByRole("dialog"));
    const first = (await listed.findAllByTestId("judged-profile-mismatch"))[0] as HTMLElement;
    expect(first.textContent).toMatch(/never be above 14\.6 V/);
    expect(within(first).getByRole("img", { name: "danger" })).toBeTruthy();
    await press("button", /14\.2 V/, within(first));
    await waitFor(() => expect(screen.queryByTestId("judged-profile-mismatch")).toBeNull());
    await user.keyboard("{Escape}");
    await waitFor(async () => expect((await field("Absorption")).value).toBe("14.2"));
    await settled();
    await undo();
    await waitFor(async () => expect((await field("Absorption")).value).toBe("15"));
    await waitFor(() => expect(Number.parseInt(count(), 10)).toBe(before + 1));
  });

  it("is on Build too: a feed's cable is one and the same on both pages", async () => {
    await openPage("build?circuit=feed-dcdc");
    await choose(/^Cable/, /^6 mm²/);
    expect(await screen.findByTestId("judged-drop-over")).toBeTruthy();
    expect((await stored()).box.vehicle?.[0]).toMatchObject({ feed: { area_mm2: 6 } });
  });
});
