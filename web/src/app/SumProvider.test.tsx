// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import type { Sum } from "../api/client";
import { BenchContext } from "./context";
import { SumProvider } from "./SumProvider";
import { Figure } from "./sums";

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
  says: "It stands lowest at dawn.",
  lines: [],
  constants: [],
} as unknown as Sum;
const STATE = { draft: {}, sky: "expected", plan: { id: 1 }, run: {} };
const bench = { subscribe: () => () => undefined, snapshot: () => STATE };

describe("a figure", () => {
  it("opens to its sum, and Escape gives the place back", async () => {
    render(
      <BenchContext value={bench as never}>
        <SumProvider>
          <Figure of={GIVEN}>29 %</Figure>
        </SumProvider>
      </BenchContext>,
    );
    expect(screen.queryByTestId("sum")).toBeNull();
    const figure = screen.getByRole("button", { name: /29 %/ });
    await userEvent.click(figure);
    expect((await screen.findByTestId("sum")).textContent).toContain("It stands lowest at dawn.");
    await userEvent.keyboard("{Escape}");
    expect(screen.queryByTestId("sum")).toBeNull();
    expect(document.activeElement).toBe(figure);
  });
});
