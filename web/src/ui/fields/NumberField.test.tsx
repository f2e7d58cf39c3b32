// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { USUAL_HABITS } from "../../quantities/habits";
import { HabitsContext } from "../../quantities/useHabits";
import { NumberField } from "./NumberField";

afterEach(cleanup);

function capacity(value: number | null, more: Partial<Parameters<typeof NumberField>[0]> = {}) {
  const onCommit = vi.fn();
  render(
    <NumberField
      label="Capacity"
      value={value}
      limit="Battery.capacity_ah"
      onCommit={onCommit}
      {...more}
    />,
  );
  return { onCommit, field: screen.getByRole("textbox", { name: "Capacity" }) };
}

async function type(field: HTMLElement, text: string) {
  await userEvent.clear(field);
  await userEvent.type(field, text);
}

describe("a number in its unit", () => {
  it("is committed once it is finished, and not with every key", async () => {
    const { field, onCommit } = capacity(90);
    await type(field, "120");
    expect(onCommit).not.toHaveBeenCalled();
    await userEvent.keyboard("{Enter}");
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(120);
  });

  it("takes a decimal comma for a point", async () => {
    const { field, onCommit } = capacity(90);
    await type(field, "92,5");
    await userEvent.tab();
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(92.5);
  });

  it("refuses what is out of bounds with value, limit and remedy, and keeps the plan", async () => {
    const { field, onCommit } = capacity(90);
    await type(field, "9000");
    const text = screen.getByRole("alert").textContent;
    expect(text).toMatch(/9000 is too much. Enter 1 to 1,500 Ah/);
    expect(text).toMatch(/stays as it was/);
    expect(field.getAttribute("aria-invalid")).toBe("true");
    await userEvent.tab();
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("refuses what is no number while it is typed", async () => {
    const { field } = capacity(90);
    await type(field, "ninety");
    expect(screen.getByRole("alert").textContent).toMatch(/is not a number/);
  });

  it("puts the old figure back on Escape", async () => {
    const { field, onCommit } = capacity(90);
    await type(field, "9000{Escape}");
    expect((field as HTMLInputElement).value).toBe("90");
    expect(screen.queryByRole("alert")).toBeNull();
    await userEvent.tab();
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("commits nothing when nothing was changed", async () => {
    const { field, onCommit } = capacity(90);
    await userEvent.click(field);
    await userEvent.tab();
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("may be left empty where something holds then, and says so once", async () => {
    const onClear = vi.fn();
    const { field, onCommit } = capacity(90, { empty: "usual", onClear });
    await userEvent.clear(field);
    await userEvent.tab();
    expect(onClear).toHaveBeenCalledOnce();
    expect(onCommit).not.toHaveBeenCalled();
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("shows and reads a temperature in the reader's own degrees", async () => {
    const onCommit = vi.fn();
    const habits = { ...USUAL_HABITS, temperature: "F" as const };
    render(
      <HabitsContext value={{ habits, setHabits: () => undefined }}>
        <NumberField label="Air" value={25} limit="Build.ambient_c" onCommit={onCommit} />
      </HabitsContext>,
    );
    const field = screen.getByRole("textbox", { name: "Air" }) as HTMLInputElement;
    expect(field.value).toBe("77");
    await type(field, "86");
    await userEvent.keyboard("{Enter}");
    expect(onCommit.mock.calls[0]?.[0]).toBeCloseTo(30, 9);
  });

  it("follows the plan while it is not being typed in", () => {
    const props = { label: "Capacity", limit: "Battery.capacity_ah" as const, onCommit: vi.fn() };
    const { rerender } = render(<NumberField {...props} value={90} />);
    rerender(<NumberField {...props} value={100} />);
    expect((screen.getByRole("textbox") as HTMLInputElement).value).toBe("100");
  });
});
