import { createContext, useContext } from "react";
import { type Habits, USUAL_HABITS } from "./habits";

export const HabitsContext = createContext<{
  habits: Habits;
  setHabits: (habits: Habits) => void;
}>({ habits: USUAL_HABITS, setHabits: () => undefined });

/** What the server was told of its reader; changes when any habit does. */
export const ReaderContext = createContext("");

export function useHabits(): Habits {
  return useContext(HabitsContext).habits;
}
