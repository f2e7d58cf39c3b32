import { createContext, useContext, useSyncExternalStore } from "react";
import type { Unit } from "../quantities/units";
import type { PlanState, PlanStore } from "./planStore";

export const PlanStoreContext = createContext<PlanStore | null>(null);
export const UnitContext = createContext<{ unit: Unit; setUnit: (unit: Unit) => void }>({
  unit: "Ah",
  setUnit: () => undefined,
});

export type Scheme = "day" | "night";
export const SchemeContext = createContext<{ scheme: Scheme; setScheme: (next: Scheme) => void }>({
  scheme: "day",
  setScheme: () => undefined,
});

/** A moment of the trip: a day, and minutes after its midnight. */
export interface Cursor {
  day: number;
  minute: number;
}
export const CursorContext = createContext<{
  cursor: Cursor;
  setCursor: (next: Cursor) => void;
}>({ cursor: { day: 0, minute: 0 }, setCursor: () => undefined });

export function usePlanStore(): PlanStore {
  const store = useContext(PlanStoreContext);
  if (!store) throw new Error("usePlanStore outside a plan");
  return store;
}

export function usePlanState(): PlanState {
  const store = usePlanStore();
  return useSyncExternalStore(store.subscribe, store.snapshot);
}

/** One part of the state; the component is drawn again only when that part is another. */
export function usePlanPart<T>(select: (state: PlanState) => T): T {
  const store = usePlanStore();
  return useSyncExternalStore(store.subscribe, () => select(store.snapshot()));
}

/** The moment that is looked at; at first the lowest. */
export function useCursor(): [Cursor, (next: Cursor) => void] {
  const { cursor, setCursor } = useContext(CursorContext);
  const days = usePlanPart((state) => state.run.days.length);
  return [cursor.day < days ? cursor : { day: days - 1, minute: 0 }, setCursor];
}

export function useUnit(): Unit {
  return useContext(UnitContext).unit;
}
