import type { DayReport, LogEntry } from "../../../api/client";
import { clockText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";
import type { RowShape } from "./geometry";

interface Props {
  entries: readonly LogEntry[];
  day: DayReport;
  width: number;
  shape: RowShape;
}

/**
 * Entries of the log: a bar as tall as a reading is doubtful and a diamond at its face; what was
 * done or only counted stands as a wedge on the base line.
 */
export function ReadingMarks({ entries, day, width, shape }: Props) {
  const habits = useHabits();
  const y = (level: number) =>
    shape.levelBottom - (level / 100) * (shape.levelBottom - shape.levelTop);
  return entries
    .filter((entry) => entry.step >= day.first_step && entry.step < day.first_step + day.steps)
    .map((entry) => {
      const x = ((entry.step - day.first_step) / day.steps) * width;
      const { low_percent: low, mid_percent: mid, high_percent: high } = entry;
      const title = (
        <title>{`${clockText(entry.at_local.slice(11, 16), habits)}: ${entry.text}`}</title>
      );
      if (low == null || mid == null || high == null) {
        return (
          <path
            key={entry.id}
            data-reading={entry.id}
            d={`M${x},${shape.levelBottom}l-3.5,-6h7z`}
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
