import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { type Scheme, SchemeContext, UnitContext } from "../plan/context";
import { type Habits, USUAL_HABITS } from "../quantities/habits";
import { readerOf, tellServer } from "../quantities/reader";
import type { Unit } from "../quantities/units";
import { HabitsContext, ReaderContext } from "../quantities/useHabits";

const HABITS = "oddkettle.habits";
const SCHEME = "oddkettle.scheme";
const UNIT = "oddkettle.unit";

function stored(): Habits {
  try {
    return { ...USUAL_HABITS, ...JSON.parse(localStorage.getItem(HABITS) ?? "{}") };
  } catch {
    return USUAL_HABITS;
  }
}

/** How this browser's user writes figures, and whether it is night; all of it is kept here. */
export function HabitsProvider({ children }: { children: ReactNode }) {
  const [habits, setHabits] = useState(stored);
  const [unit, setUnit] = useState<Unit>(localStorage.getItem(UNIT) === "Wh" ? "Wh" : "Ah");
  const [scheme, setScheme] = useState<Scheme>(
    localStorage.getItem(SCHEME) === "night" ? "night" : "day",
  );
  useEffect(() => {
    document.documentElement.dataset.scheme = scheme;
    localStorage.setItem(SCHEME, scheme);
  }, [scheme]);
  const reader = readerOf(habits, unit);
  useReader(reader);
  function keep(next: Habits) {
    localStorage.setItem(HABITS, JSON.stringify(next));
    setHabits(next);
  }
  function keepUnit(next: Unit) {
    localStorage.setItem(UNIT, next);
    setUnit(next);
  }
  return (
    <ReaderContext value={reader}>
      <HabitsContext value={{ habits, setHabits: keep }}>
        <UnitContext value={{ unit, setUnit: keepUnit }}>
          <SchemeContext value={{ scheme, setScheme }}>{children}</SchemeContext>
        </UnitContext>
      </HabitsContext>
    </ReaderContext>
  );
}

/** Told before anything is asked; what was answered to another reader is asked anew. */
function useReader(reader: string) {
  const queries = useQueryClient();
  const [first] = useState(() => {
    if (tellServer(reader)) globalThis.oddkettleEarly?.clear();
    return reader;
  });
  useEffect(() => {
    if (!tellServer(reader) && reader === first) return;
    // The plan itself holds no sentences, and opening it anew would drop what is tried on it.
    void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== "store" });
  }, [queries, reader, first]);
}
