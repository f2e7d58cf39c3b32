import { createContext, useContext, useSyncExternalStore } from "react";
import type { Unit } from "../quantities/units";
import type { Bench, BenchState } from "./bench";

export const BenchContext = createContext<Bench | null>(null);
export const UnitContext = createContext<{ unit: Unit; setUnit: (unit: Unit) => void }>({
  unit: "Ah",
  setUnit: () => undefined,
});

export function useBench(): Bench {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error("useBench outside a plan");
  return bench;
}

export function useBenchState(): BenchState {
  const bench = useBench();
  return useSyncExternalStore(bench.subscribe, bench.snapshot);
}

/** One part of the state; the component is drawn again only when that part is another. */
export function useBenchPart<T>(select: (state: BenchState) => T): T {
  const bench = useBench();
  return useSyncExternalStore(bench.subscribe, () => select(bench.snapshot()));
}

export function useUnit(): Unit {
  return useContext(UnitContext).unit;
}
