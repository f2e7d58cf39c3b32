// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ClockField } from "./ClockField";

afterEach(cleanup);

async function typed(text: string, refuse?: (value: string) => string | null) {
  const onCommit = vi.fn();
  render(<ClockField label="From" value="08:00" onCommit={onCommit} refuse={refuse} />);
  const field = screen.getByRole("textbox", { name: "From" }) as HTMLInputElement;
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
  return { onCommit, field };
}

describe("a time of day", () => {
  it.each([
    ["7", "07:00"],
    ["9.30", "09:30"],
    ["2130", "21:30"],
  ])("reads %s as people type it", async (text, stored) => {
    const { onCommit, field } = await typed(text);
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(stored);
    expect(field.value).toBe(stored);
  });

  it("refuses what is no time, and commits nothing", async () => {
    const { onCommit } = await typed("25:00");
    expect(screen.getByRole("alert").textContent).toMatch(/stays as it was/);
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("refuses a time that its place forbids, with the place's own reason", async () => {
    const { onCommit } = await typed("06:00", (value) => (value < "07:00" ? "Too early." : null));
    expect(screen.getByRole("alert").textContent).toMatch(/^Too early\./);
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("commits nothing when the time is the same", async () => {
    const { onCommit } = await typed("8:00");
    expect(onCommit).not.toHaveBeenCalled();
  });
});
