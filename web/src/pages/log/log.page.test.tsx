import { screen, waitFor, within } from "@testing-library/dom";
import { describe, expect, it } from "vitest";
import {
  choose,
  field,
  get,
  listed,
  openPage,
  press,
  says,
  settled,
  storedSamples,
  type,
  unfold,
  user,
} from "../../testing/page";

/** Type without finishing it, as into a form that is sent as a whole. */
async function fill(label: string | RegExp, text: string): Promise<void> {
  const box = await field(label);
  await user.clear(box);
  if (text) await user.type(box, text);
}

async function log(percent: string, day: string, clock: string): Promise<void> {
  await fill(/^The monitor says/, percent);
  await choose("Day", day);
  await fill("Time", clock);
  await press("button", "Log it");
}

/** Wait until the list says so, or no longer. */
const lists = (words: RegExp) => waitFor(() => expect(listed()).toMatch(words));
const listsNo = (words: RegExp) => waitFor(() => expect(listed()).not.toMatch(words));

describe("an entry", () => {
  it("that is nonsense is refused at its field, and nothing else is lost", async () => {
    await openPage("log");
    await fill(/^Note/, "by torch");
    await log("140", "Mon 8", "25:00");
    await screen.findByText(/140 is too much\. Enter 0 to 100 %/);
    await screen.findByText(/is not a time of day/);
    await fill(/^The monitor says/, "40");
    await fill("Time", "21.15");
    await press("button", "Log it");
    await lists(/by torch/);
  });

  it("of what was done has an end, and of the sky a word", async () => {
    await openPage("log");
    await press("radio", "we did");
    await press("radio", "left off");
    await choose(/^Which appliance/, "Light trap");
    await choose("Day", "Sun 7");
    await fill("From", "21:00");
    await press("button", "Log it");
    expect((await screen.findByRole("alert")).textContent).toMatch(/Nothing is typed here/);
    await fill("Until", "4:00");
    await press("button", "Log it");
    await lists(/Light trap off/);
    await press("radio", "we saw");
    await choose(/^How it was/, "overcast");
    await press("button", "Log it");
    await lists(/the sky was overcast/);
  });

  it("is corrected, deleted and put back", async () => {
    await openPage("log");
    await log("64", "Tue 9", "22:15");
    await press("button", /^Correct the entry of Tue 9, 22:15/);
    const form = within(await get("form", /^Correct an entry/));
    expect((await field(/^The monitor says/, form)).value).toBe("64");
    await user.clear(await field(/^The monitor says/, form));
    await user.type(await field(/^The monitor says/, form), "46");
    await press("button", /^Save correction/, form);
    await lists(/monitor says 46 %/);
    await screen.findByText("Before: monitor says 64 %.");
    await screen.findByText(/^corrected 20/);
    await press("button", /^Take it back/);
    await lists(/monitor says 64 %/);
    await listsNo(/monitor says 46 %/);
    await press("button", /^Delete the entry of Tue 9, 22:15/);
    await listsNo(/monitor says 64 %/);
    await press("button", /^Put it back/);
    await lists(/monitor says 64 %/);
  });

  it("of two meters is corrected with the figures that it has", async () => {
    await openPage("log");
    await press("radio", "two meters");
    await fill(/^Came from all sources/, "40");
    await fill(/^Went into all loads/, "52");
    await choose("Set to zero", "Sat 6");
    await choose("Day", "Tue 9");
    await press("button", "Log it");
    await press("button", /^Correct the entry of Tue 9/);
    const form = within(await get("form", /^Correct an entry/));
    expect((await field(/^Came from all sources/, form)).value).toBe("40");
    expect((await field(/^Went into all loads/, form)).value).toBe("52");
  });

  it("that nothing explains is seen to be set aside", async () => {
    await openPage("log");
    await log("6", "Sun 7", "07:00");
    await screen.findAllByText(/^Not used yet:/);
    await screen.findByText(/1 reading, 1 not used/);
  });
});

describe("what the log says", () => {
  it("is taken over with one press, and undo names it", async () => {
    await openPage("log?view=learned", "moth-survey", true);
    await press("button", / as learned/);
    const undo = await get("button", /^Undo/);
    await waitFor(() => expect(undo.getAttribute("title")).toMatch(/took over .* as learned/));
  });

  it("scores forecasts, and guides a capacity test", async () => {
    await openPage("log?view=learned", "moth-survey", true);
    await says("score", /lay in the band/);
    await get("img", /foreseen .* came/);
    await unfold(/^A capacity test/);
    await type(/^Went out since full/, "30");
    await type(/^Rested voltage at the end/, "13.3");
    await press("button", /^What does it hold/);
    expect((await screen.findByRole("alert")).textContent).toMatch(/too full to tell/);
    expect((await field(/^Went out since full/)).value).toBe("30");
    await type(/^Went out since full/, "58");
    await type(/^Rested voltage at the end/, "12.85");
    await press("button", /^What does it hold/);
    await says("capacity-found", /% of its label/);
    await press("button", /^Take .* Ah over/);
    await settled();
    expect(((await get("button", /^Undo/)) as HTMLButtonElement).disabled).toBe(false);
  });

  it("says from here which drive is enough", async () => {
    await openPage("trip", "moth-survey", true);
    await says("mend-onward", /driving on/);
    await press("link", /Improve your chances/);
    await press("radio", "What to buy?");
    const now = await get("radio", /^from now on/);
    await waitFor(() => expect(now.getAttribute("data-state")).toBe("on"));
    await type(/^Be this sure/, "60");
    await choose("on", "every day");
    await press("button", "Seek");
    await says("sought", /min of driving on every day/);
  });

  it("weighs only what needs no shop", async () => {
    await openPage("improve", "moth-survey", true);
    await says("changes", /Without light trap/);
    expect(screen.getByTestId("changes").textContent).not.toMatch(/same battery once more/);
    await press("radio", /^the whole plan/);
    await says("changes", /same battery once more/);
  });
});

describe("a broker", () => {
  it("is set, refused where it stands, and left again", async () => {
    await openPage("log?view=monitor");
    const section = within(await get("region", /^MQTT broker/));
    await unfold(/MQTT broker of your own/, section);
    const write = async (label: RegExp, text: string) => {
      const box = (await section.findByLabelText(label)) as HTMLInputElement;
      await user.clear(box);
      await user.click(box);
      await user.paste(text);
    };
    await write(/^Its address/, "nowhere");
    await write(/^The topic/, "van/battery");
    await write(/^Volts stand at/, "$.volts");
    await press("button", /^Use this broker/, section);
    expect((await section.findByRole("alert")).textContent).toMatch(/Write it like 127\.0\.0\.1/);
    await write(/^Its address/, "127.0.0.1:9");
    await press("button", /^Use this broker/, section);
    await says("broker-says", /broker is away/, section);
    await press("button", /^Use none/, section);
    await section.findByText(/MQTT broker of your own/);
  });
});

const RAGGED = [
  "Box log 7;;;",
  "Zeit;Spannung;Strom;SOC",
  "08.06.2026 07:00;13,21;3,2;64,0",
  "08.06.2026 07:15;13,20",
  "heute;13,2;3,1;63",
  "08.06.2026 07:45;13,18;3,4;62,0;zu;viel",
  "08.06.2026 08:00;;;",
  "",
].join("\n");

describe("a table of samples", () => {
  it("however ragged is shown, put right and stored", async () => {
    await openPage("log?view=monitor");
    const input = await screen.findByLabelText(/^Choose a CSV file/);
    await user.upload(input, new File([RAGGED], "box.csv"));
    const rows = within(await screen.findByTestId("first-rows")).getAllByRole("row");
    expect(rows).toHaveLength(4);
    expect(rows[1]?.textContent).toMatch(/13\.21/);
    expect(rows[1]?.textContent).toMatch(/-3\.2/);
    await screen.findByText(/3 rows can be read, 3 of them lie on the trip/);
    await screen.findByText(/line 5:/);
    await press("button", /^Store 3 samples/);
    await says("import-done", /Stored 3 samples/);
    expect(await storedSamples()).toBe(3);
    await user.upload(input, new File(["\u0089PNG\r\n\u001a\n\u0000"], "picture.csv"));
    expect((await screen.findByRole("alert")).textContent).toMatch(/as CSV/);
  });
});
