import { screen, waitFor, within } from "@testing-library/dom";
import { describe, expect, it } from "vitest";
import { choose, field, get, openPage, press, says, settled, type, user } from "../../testing/page";

describe("a change", () => {
  it("has a price of one's own, which is kept while its sheet stays open", async () => {
    await openPage("improve");
    const price = await get("button", /price of The same battery/);
    expect(price.textContent).toMatch(/€ 250 to 500/);
    await user.click(price);
    const sheet = within(await get("dialog", /./));
    await type("to", "-3", sheet);
    expect((await screen.findByRole("alert")).textContent).toMatch(/too little/);
    await type("to", "333", sheet);
    await settled();
    await waitFor(() => expect(price.textContent).toMatch(/€ 250 to 333/));
    expect((await field("to", sheet)).value).toBe("333");
  });
});

describe("a goal", () => {
  it("is sought, drawn with what was tried, and has bounds", async () => {
    await openPage("improve?view=buy");
    await choose(/^by changing/, /battery.s size/);
    await press("button", "Seek");
    await says("sought", /^\d+ Ah of battery make it 9\d % sure/);
    await get("img", /^How often it lasts: 90 Ah, /);
    await press("button", /^Try 2/);
    await screen.findByTestId("trial");
    const sure = await field(/^Be this sure/);
    await user.clear(sure);
    await user.type(sure, "120");
    await user.tab();
    expect((await screen.findAllByRole("alert")).map((one) => one.textContent).join()).toMatch(
      /120/,
    );
  });
});

describe("variants", () => {
  it("are named and set side by side", async () => {
    await openPage("improve?view=beside");
    await type(/^Name of the variant/, "Moths, as they were");
    await press("button", /^Keep as a variant/);
    await says("comparison", /No trip tells it from the first/);
    await press("button", /^The same, ready-made/);
    await says("comparison", /unit, capacity \(Wh\)/);
  });
});

describe("what fixes it", () => {
  it("is one list: enough alone, enough together, helps; and follows what is never to change", async () => {
    await openPage("improve");
    await says("headline", /becomes 9\d\. It is free\.$/);
    const group = (name: string) => screen.queryByRole("region", { name });
    const now = Number(/(\d+) of 100/.exec(screen.getByTestId("headline").textContent ?? "")?.[1]);
    const figures = (within_: HTMLElement | null) =>
      within_
        ? within(within_)
            .getAllByRole("listitem")
            .map((row) => Number(/(\d+) of 100/.exec(row.textContent ?? "")?.[1]))
        : [];
    await waitFor(() => expect(group("Enough together")).not.toBeNull());
    for (const name of ["Enough on its own", "Enough together"])
      for (const to of figures(group(name))) expect([name, to >= 90]).toEqual([name, true]);
    const helps = figures(group("Helps, not enough"));
    expect(helps.length).toBeGreaterThan(5);
    for (const to of helps) expect(to).toBeLessThan(90);
    expect(helps[0]).toBeGreaterThan(now);
    // What must not change is in no row any more.
    const laptop = () => screen.queryAllByText(/laptop/i).filter((one) => one.closest("li"));
    expect(laptop().length).toBeGreaterThan(0);
    await press("button", /^never change/);
    await press("switch", /laptop/i);
    await user.keyboard("{Escape}");
    await waitFor(() => expect(laptop()).toHaveLength(0));
  });

  it("is applied by one press, and then it lasts as the row said", async () => {
    await openPage("improve");
    await says("headline", /becomes \d+\. It is free\.$/);
    const [, , to] = /(\d+) of 100 becomes (\d+)/.exec(
      screen.getByTestId("headline").textContent ?? "",
    ) ?? [0, 0, 0];
    await press("button", "Apply");
    await settled();
    await says("headline", new RegExp(`It lasts in ${to} of 100|Nothing is needed`));
  });
});
