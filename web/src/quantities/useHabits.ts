import { createContext, useContext } from "react";
import { type Habits, USUAL_HABITS } from "./habits";

export const HabitsContext = createContext<{
  habits: Habits;
  setHabits: (habits: Habits) => void;
}>({ habits: USUAL_HABITS, setHabits: () => undefined });

export function useHabits(): Habits {
  return useContext(HabitsContext).habits;
}
