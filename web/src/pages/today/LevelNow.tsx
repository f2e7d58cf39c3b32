import type { Schemas } from "../../api/client";
import { percentText } from "../../quantities/units";

const WIDE = 300;
const HIGH = 26;

interface Props {
  day: Schemas["TodayReport"];
  floor: number;
  levelIs: string;
}

/** The level now, tonight and at dawn, each with its doubt, on one scale. */
export function LevelNow({ day, floor, levelIs }: Props) {
  const rows = [{ name: levelIs, level: day.level }, ...day.expected];
  const x = (level: number) => (Math.min(Math.max(level, 0), 100) / 100) * WIDE;
  return (
    <section className="plate px-4 py-3" aria-label="The level">
      <h2 className="text-lg">The level</h2>
      <ul>
        {rows.map(({ name, level }) => (
          <li key={name} className="mt-1">
            <div className="flex items-baseline justify-between">
              <span>{name}</span>
              <span>
                <strong className="text-lg">{percentText(level.middle)}</strong>{" "}
                <span className="text-sm text-ash">
                  {Math.round(Math.max(level.low, 0))} to {Math.round(level.high)}
                </span>
              </span>
            </div>
            <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="block w-full" aria-hidden="true">
              <rect y="6" width={WIDE} height="12" rx="4" fill="var(--color-band)" />
              <rect
                x={x(level.low)}
                y="6"
                width={Math.max(x(level.high) - x(level.low), 2)}
                height="12"
                fill="var(--color-level-tint)"
              />
              <rect x={x(level.middle) - 2} y="2" width="4" height="20" fill="var(--color-level)" />
              <line
                x1={x(floor)}
                x2={x(floor)}
                y2={HIGH}
                stroke="var(--color-danger)"
                strokeWidth="2"
                strokeDasharray="4 3"
              />
            </svg>
          </li>
        ))}
      </ul>
      <p className="text-sm text-ash">
        The broken line is your reserve of {floor} %. In 8 trips of 10 the level lies in the pale
        part.
      </p>
    </section>
  );
}
