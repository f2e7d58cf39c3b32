import { describe, expect, it } from "vitest";
import type { Period } from "../../../api/client";
import { columns, layRibbons } from "./layout";

const flow = (ah: number) => ({ ah, wh: 13 * ah });
const none = flow(0);

function period(taken: number[], used: number[]): Period {
  return {
    sources: taken.map((ah, i) => ({
      key: `s${i}`,
      kind: i === 0 ? "sun" : "vehicle",
      name: `source ${i}`,
      limit_a: 10,
      offered: flow(ah + 8),
      barred: none,
      clipped: i === 0 ? flow(3) : none,
      spilled: i === 0 ? flow(5) : flow(8),
      taken: flow(ah),
    })),
    draws: used.map((ah, i) => ({
      key: `d${i}`,
      name: `thing ${i}`,
      used: flow(ah),
      lost_wh: 0,
      unmet: none,
      moved: none,
    })),
    used: flow(used.reduce((sum, ah) => sum + ah, 0)),
  } as unknown as Period;
}

describe("ribbons", () => {
  const c = columns(900, 4);
  const laid = layRibbons(period([30, 20], [25, 10, 5, 2]), "Ah", c);
  const [sun, vehicle] = laid.sources;

  it("are as wide as their charge, to one scale", () => {
    const perAh = (sun?.takenPx ?? 0) / 30;
    expect((vehicle?.takenPx ?? 0) / 20).toBeCloseTo(perAh);
    expect((laid.draws[0]?.thick ?? 0) / 25).toBeCloseTo(perAh);
    expect((sun?.clippedPx ?? 0) / 3).toBeCloseTo(perAh);
  });

  it("open a bottleneck to what could pass, spill and all", () => {
    expect(sun?.open).toBeCloseTo((sun?.takenPx ?? 0) + (sun?.spilledPx ?? 0));
    expect(vehicle?.open).toBeGreaterThan(vehicle?.takenPx ?? 0);
  });

  it("call only the sun's surplus a spill", () => {
    expect(sun?.spilledPx).toBeGreaterThan(0);
    expect(vehicle?.spilledPx).toBe(0);
  });

  it("keep sources and labels apart, largest use first", () => {
    expect(vehicle?.top).toBeGreaterThan((sun?.top ?? 0) + (sun?.open ?? 0) + 40);
    expect(laid.draws.map((draw) => draw.key)).toEqual(["d0", "d1", "d2", "d3"]);
    const middles = laid.draws.map((draw) => draw.arrives + draw.thick / 2);
    for (let i = 1; i < middles.length; i++) {
      expect((middles[i] ?? 0) - (middles[i - 1] ?? 0)).toBeGreaterThanOrEqual(26);
    }
  });

  it("look the same in either unit when the voltage is the same", () => {
    const inWh = layRibbons(period([30, 20], [25, 10, 5, 2]), "Wh", c);
    expect(inWh.sources[0]?.takenPx).toBeCloseTo(sun?.takenPx ?? 0);
  });

  it("stand empty without charge, and do not divide by nought", () => {
    const bare = layRibbons(period([], []), "Ah", columns(380, 0));
    expect(bare).toMatchObject({ sources: [], draws: [] });
    const idle = layRibbons(period([0], [0]), "Ah", c);
    expect(idle.draws[0]?.thick).toBe(0);
  });

  it("are thin at a moment when little flows, against the strongest of the trip", () => {
    const noon = layRibbons(period([8], [2]), "Ah", c, flow(20));
    const dawn = layRibbons(period([0.4], [2]), "Ah", c, flow(20));
    const widths = [noon, dawn].map((one) => one.sources[0]?.takenPx ?? 0);
    expect((widths[0] ?? 0) / (widths[1] ?? 1)).toBeGreaterThan(3);
  });

  it("gather the smallest on a phone, and lose none of their charge", () => {
    const used = Array.from({ length: 20 }, (_, i) => 20 - i);
    const laid = layRibbons(period([9], used), "Ah", columns(360, 20));
    expect(laid.draws).toHaveLength(10);
    const sum = laid.draws.reduce((total, draw) => total + draw.used.ah, 0);
    expect(sum).toBeCloseTo(used.reduce((total, ah) => total + ah, 0));
    expect(laid.draws.some((draw) => draw.name === "11 smaller ones")).toBe(true);
  });

  it("stay clear with six sources and twenty appliances", () => {
    const wide = columns(900, 20);
    const many = layRibbons(period(Array(6).fill(9), Array(20).fill(2)), "Ah", wide);
    const last = many.draws.at(-1);
    expect((last?.arrives ?? 0) + (last?.thick ?? 0)).toBeLessThan(wide.height);
  });
});
