// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import type { Sum } from "../api/client";
import { PlanStoreContext } from "../plan/context";
import { Figure } from "../plan/sums";
import { SumProvider } from "./SumProvider";

afterEach(cleanup);
beforeAll(() => {
  // The sheet measures where it may stand; a page without layout has nothing to measure.
  globalThis.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
});

const GIVEN: Sum = {
  title: "Lowest level",
  text: "It stands lowest at dawn.",
  lines: [],
  constants: [],
} as unknown as Sum;
const STATE = { draft: {}, sky: "expected", plan: { id: 1 }, run: {} };
const store = { subscribe: () => () => undefined, snapshot: () => STATE };

describe("a figure", () => {
  it("opens to its sum, and Escape gives the place back", async () => {
    render(
      <PlanStoreContext value={store as never}>
        <SumProvider>
          <Figure of={GIVEN}>29 %</Figure>
        </SumProvider>
      </PlanStoreContext>,
    );
    expect(screen.queryByTestId("sum")).toBeNull();
    const figure = screen.getByRole("button", { name: /29 %/ });
    await userEvent.click(figure);
    // Its script is loaded when it is first asked for, which takes as long as the machine is busy.
    const sheet = await screen.findByTestId("sum", {}, { timeout: 20_000 });
    expect(sheet.textContent).toContain("It stands lowest at dawn.");
    await userEvent.keyboard("{Escape}");
    expect(screen.queryByTestId("sum")).toBeNull();
    expect(document.activeElement).toBe(figure);
  }, 30_000);
});
