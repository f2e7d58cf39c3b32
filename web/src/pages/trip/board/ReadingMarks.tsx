import type { LogEntry } from "../../../api/client";
import { clockText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";

interface Props {
  entries: readonly LogEntry[];
  /** The steps that are drawn, and where a step and a level stand. */
  from: number;
  to: number;
  x: (step: number) => number;
  y: (level: number) => number;
}

/**
 * Entries of the log: a bar as tall as a reading is doubtful and a diamond at its face; what was
 * done or only counted stands as a wedge on the base line.
 */
export function ReadingMarks({ entries, from, to, x: xOf, y }: Props) {
  const habits = useHabits();
  return entries
    .filter((entry) => entry.step >= from && entry.step < to)
    .map((entry) => {
      const x = xOf(entry.step);
      const { low_percent: low, mid_percent: mid, high_percent: high } = entry;
      const title = (
        <title>{`${clockText(entry.at_local.slice(11, 16), habits)}: ${entry.text}`}</title>
      );
      if (low == null || mid == null || high == null) {
        return (
          <path
            key={entry.id}
            data-reading={entry.id}
            d={`M${x},${y(0)}l-3.5,-6h7z`}
            fill="var(--color-ink)"
            fillOpacity=".6"
          >
            {title}
          </path>
        );
      }
      return (
        <g key={entry.id} data-reading={entry.id}>
          <line
            x1={x}
            x2={x}
            y1={y(high)}
            y2={y(low)}
            stroke="var(--color-ink)"
            strokeWidth="5"
            strokeOpacity=".28"
            strokeLinecap="round"
          />
          <path
            d={`M${x},${y(mid) - 4.5}l4.5,4.5l-4.5,4.5l-4.5,-4.5z`}
            fill="var(--color-plate)"
            stroke="var(--color-ink)"
            strokeWidth="1.6"
          >
            {title}
          </path>
        </g>
      );
    });
}
