import { type ReactNode, useEffect, useState } from "react";
import { type Scheme, SchemeContext } from "../plan/context";
import { type Habits, USUAL_HABITS } from "../quantities/habits";
import { HabitsContext } from "../quantities/useHabits";

const HABITS = "oddkettle.habits";
const SCHEME = "oddkettle.scheme";

function stored(): Habits {
  try {
    return { ...USUAL_HABITS, ...JSON.parse(localStorage.getItem(HABITS) ?? "{}") };
  } catch {
    return USUAL_HABITS;
  }
}

/** How this browser's user writes figures, and whether it is night; both are kept here only. */
export function HabitsProvider({ children }: { children: ReactNode }) {
  const [habits, setHabits] = useState(stored);
  const [scheme, setScheme] = useState<Scheme>(
    localStorage.getItem(SCHEME) === "night" ? "night" : "day",
  );
  useEffect(() => {
    document.documentElement.dataset.scheme = scheme;
    localStorage.setItem(SCHEME, scheme);
  }, [scheme]);
  function keep(next: Habits) {
    localStorage.setItem(HABITS, JSON.stringify(next));
    setHabits(next);
  }
  return (
    <HabitsContext value={{ habits, setHabits: keep }}>
      <SchemeContext value={{ scheme, setScheme }}>{children}</SchemeContext>
    </HabitsContext>
  );
}
