import { screen, waitFor, within } from "@testing-library/dom";
import { describe, expect, it } from "vitest";
import { answerInstead } from "../testing/browser";
import {
  field,
  get,
  openPage,
  press,
  says,
  settled,
  show,
  showAt,
  type,
  unfold,
  user,
} from "../testing/page";

/** The plan's menu is the header's first that opens one. */
async function openMenu(): Promise<void> {
  const opens = "header button[aria-haspopup=menu]";
  await waitFor(() => expect(document.querySelector(opens)).not.toBeNull());
  await user.click(document.querySelector(opens) as HTMLElement);
}

describe("how the program stands", () => {
  const told = (part: object) => () =>
    Response.json({
      version: "1.2.3",
      status: "troubled",
      database: "ok",
      step: 14,
      newest_copy: "auto-2026-06-08T120000.sqlite3",
      newest_copy_at: "2026-06-08T12:00:00+00:00",
      free_bytes: 5e9,
      parts: [{ name: "keeper", title: "Keeps copies", ...part }],
    });

  it("is told by the engine itself", async () => {
    showAt("/status");
    const state = await screen.findByRole("status");
    expect(state.textContent).toMatch(/^[✓▲]/);
    expect(screen.getByText("The data file").nextSibling?.textContent).toMatch(/✓/);
    expect(screen.getByRole("link", { name: /^Save a copy/ }).getAttribute("href")).toBe(
      "/api/backup",
    );
  });

  it("names what failed, when and why", async () => {
    const back = answerInstead(
      /^\/health$/,
      told({ well: false, well_at: null, failed_at: "2026-06-08T11:00:00Z", reason: "disk full" }),
    );
    showAt("/status");
    await screen.findByText(/disk full/);
    expect((await screen.findByRole("status")).textContent).toMatch(/^▲/);
    expect(screen.getByText(/^The newest copy/).nextSibling?.textContent).toMatch(/8 Jun/);
    back();
  });
});

describe("plans", () => {
  it("are switched, and files come in or are refused with what is wrong", async () => {
    await openPage("trip");
    await openMenu();
    await press("menuitem", /^Family coast weekend, 24 V/);
    await waitFor(() => expect(screen.getAllByTestId("lowest")).toHaveLength(4));
    await openMenu();
    const file = screen.getByLabelText(/^Plan file/);
    await user.upload(file, new File(['{"name": "half a pl'], "damaged.json"));
    expect((await screen.findByRole("alert")).textContent).toMatch(/breaks off/);
    await user.upload(file, new File(['{"version": 9}'], "newer.json"));
    await waitFor(() =>
      expect(screen.getByRole("alert").textContent).toMatch(/newer program \(version 9\)/),
    );
    expect(screen.getAllByTestId("lowest")).toHaveLength(4);
  });

  it("keep saved states, which can be named and gone back to", async () => {
    await openPage("use");
    (await get("button", /^Laptop, 20:30 to 22:30/)).focus();
    await user.keyboard("{Shift>}{ArrowRight}{/Shift}");
    await get("button", /^Laptop, (?!20:30)/);
    await settled();
    await openMenu();
    await press("menuitem", /Version history/);
    const past = within(await get("dialog", /./));
    await past.findAllByRole("button", { name: /^Name it/ });
    await user.click(past.getAllByRole("button", { name: /^Name it/ }).at(-1) as HTMLElement);
    await user.type(await field(/^Its name/), "As it came");
    await press("button", /^Keep the name/);
    const named = (await past.findByText(/As it came/)).closest("li") as HTMLElement;
    await press("button", /^Go back to it/, within(named));
    await get("button", /^Laptop, 20:30 to 22:30/);
  });
});

describe("habits", () => {
  it("change what is shown and read, and are kept", async () => {
    await openPage("box?part=vehicle:dcdc");
    await user.keyboard("{Control>}k{/Control}");
    await user.type(await screen.findByPlaceholderText(/few letters/), "habits{Enter}");
    for (const name of ["°F", "AWG", "lb", "12 h"]) await press("radio", name);
    await user.keyboard("{Escape}");
    await unfold(/^Cable and alternator/);
    await type("Copper", "2/0");
    await waitFor(async () => expect((await field("Copper")).value).toBe("-1"));
    await type("Copper", "99");
    expect((await screen.findAllByRole("alert"))[0]?.textContent).toMatch(
      /99 is too much\. Enter -3/,
    );
    await screen.findAllByText(/\d:\d\d [ap]m/);
    await show("box?part=warmth");
    await says("warmth", /°F/);
  });
});

describe("keys", () => {
  it("reach pages, units, the night, help and every part", async () => {
    await openPage("trip");
    await user.keyboard("3");
    await waitFor(() => expect(window.location.pathname).toMatch(/\/box$/));
    await user.keyboard("u");
    const unit = await get("radio", "Wh");
    await waitFor(() => expect(unit.getAttribute("data-state")).toBe("on"));
    await user.keyboard("n");
    await waitFor(() => expect(document.documentElement.dataset.scheme).toBe("night"));
    await user.keyboard("n");
    await user.keyboard("?");
    expect((await get("dialog", /./)).textContent).toMatch(/Ctrl\+K/);
    await user.keyboard("{Escape}");
    await user.keyboard("{Control>}k{/Control}");
    await user.type(await screen.findByPlaceholderText(/few letters/), "laptop{Enter}");
    await get("dialog", "Laptop");
  });
});

describe("a trip that is under way", () => {
  it("stands first on the home page, and its day is one press away", async () => {
    showAt("/");
    const first = await get("region", "Under way");
    const link = within(first).getAllByRole("link", { name: "Open today" })[0];
    expect(link?.getAttribute("href")).toMatch(/^\/plan\/\d+\/today$/);
    const after = first.compareDocumentPosition(screen.getByRole("heading", { level: 1 }));
    expect(after & Node.DOCUMENT_POSITION_FOLLOWING).toBeTruthy();
    // What it says is what its own page says.
    await waitFor(() => expect(first.textContent).toMatch(/tries|lasts|over/));
  });
});
