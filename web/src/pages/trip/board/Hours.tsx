import { hourText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";

/** The hours along a day's picture. */
export function Hours({ width, every }: { width: number; every: number }) {
  const habits = useHabits();
  return Array.from({ length: 24 / every + 1 }, (_, i) => i * every).map((hour) => (
    <span
      key={hour}
      className="absolute -translate-x-1/2"
      style={{ left: Math.min(Math.max((hour / 24) * width, 7), width - 7) }}
    >
      {hourText(hour, habits)}
    </span>
  ));
}
