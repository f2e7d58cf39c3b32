import type { DayReport, LogEntry } from "../../api/client";
import type { RowShape } from "./geometry";

interface Props {
  entries: readonly LogEntry[];
  day: DayReport;
  width: number;
  shape: RowShape;
}

/** Readings from the log: a bar as tall as the reading is doubtful, a diamond at its face. */
export function ReadingMarks({ entries, day, width, shape }: Props) {
  const y = (level: number) =>
    shape.levelBottom - (level / 100) * (shape.levelBottom - shape.levelTop);
  return entries
    .filter((entry) => entry.step >= day.first_step && entry.step < day.first_step + day.steps)
    .map((entry) => {
      const x = ((entry.step - day.first_step) / day.steps) * width;
      const reads =
        entry.kind === "monitor_percent"
          ? `monitor says ${entry.value} %`
          : `rested at ${entry.value} V`;
      return (
        <g key={entry.id} data-reading={entry.id}>
          <line
            x1={x}
            x2={x}
            y1={y(entry.high_percent)}
            y2={y(entry.low_percent)}
            stroke="var(--color-ink)"
            strokeWidth="5"
            strokeOpacity=".28"
            strokeLinecap="round"
          />
          <path
            d={`M${x},${y(entry.mid_percent) - 4.5}l4.5,4.5l-4.5,4.5l-4.5,-4.5z`}
            fill="var(--color-plate)"
            stroke="var(--color-ink)"
            strokeWidth="1.6"
          >
            <title>{`${entry.at_local.slice(11, 16)}: ${reads}`}</title>
          </path>
        </g>
      );
    });
}
