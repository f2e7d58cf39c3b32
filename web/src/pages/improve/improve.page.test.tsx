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
    await openPage("improve?view=sure");
    await choose(/^by changing/, /battery.s size/);
    await press("button", "Seek");
    await says("headline", /^\d+ Ah of battery make it 9\d % sure/);
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
