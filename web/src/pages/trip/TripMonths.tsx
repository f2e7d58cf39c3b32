import { Slider } from "radix-ui";
import type { PointerEvent } from "react";
import type { RunReport } from "../../api/client";
import { useWidth } from "../../drawing/useWidth";

const ROW = 44;
const LEFT = 92;
const FOOT = 20;
const MAX_DAYS = 31;
/** A day that lets less of its light through is shaded as dull. */
const DULL = 0.35;
/** From here on a day's chance of going under is marked. */
const WORTH_PERCENT = 1;

interface Props {
  run: RunReport;
  floor: number;
  first: number;
  count: number;
  onFirst: (first: number) => void;
}

/**
 * A trip of months: a row a month, the days across, each day's range of the level. A press opens
 * the fortnight around a day on the board below.
 */
export function TripMonths({ run, floor, first, count, onFirst }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const months = [...new Set(run.days.map((day) => day.date.slice(0, 7)))];
  const cell = Math.max((width - LEFT - 4) / MAX_DAYS, 1);
  const worst = run.odds?.days.reduce((most, day) => Math.max(most, day.under_percent), 0) ?? 0;

  function open(event: PointerEvent<SVGSVGElement>) {
    const box = event.currentTarget.getBoundingClientRect();
    const month = months[Math.floor((event.clientY - box.top) / ROW)];
    const date = Math.floor((event.clientX - box.left - LEFT) / cell) + 1;
    const name = `${month}-${String(date).padStart(2, "0")}`;
    const index = run.days.findIndex((day) => day.date === name);
    if (index >= 0) onFirst(Math.min(Math.max(index - 6, 0), run.days.length - count));
  }

  return (
    <section className="plate mb-3 px-3 py-2" aria-label="The whole trip, month by month">
      <div ref={ref} className="min-w-0">
        <svg
          width={width}
          height={months.length * ROW + FOOT}
          className="block cursor-pointer"
          role="img"
          aria-label={`${months.length} months, each day's range of the level`}
          onPointerUp={open}
        >
          {months.map((month, row) => (
            <MonthName key={month} month={month} y={row * ROW} width={width} floor={floor} />
          ))}
          {run.days.map((day, i) => {
            const row = months.indexOf(day.date.slice(0, 7));
            const x = LEFT + (Number(day.date.slice(8)) - 1) * cell;
            const y = (level: number) => row * ROW + 3 + (ROW - 8) * (1 - level / 100);
            const high = Math.max(day.start_percent, day.end_percent, day.lowest_percent);
            const low = Math.min(run.odds?.days[i]?.lowest.low ?? 100, day.lowest_percent);
            const under = run.odds?.days[i]?.under_percent ?? 0;
            return (
              <g key={day.date}>
                {day.clearness < DULL && (
                  <rect
                    x={x}
                    y={row * ROW + 2}
                    width={cell}
                    height={ROW - 5}
                    fill="var(--color-night)"
                  />
                )}
                <rect
                  x={x + 1}
                  y={y(day.lowest_percent)}
                  width={Math.max(cell - 2, 1)}
                  height={Math.max(y(low) - y(day.lowest_percent), 0)}
                  fill="var(--color-level-tint)"
                />
                <rect
                  x={x + 1}
                  y={y(high)}
                  width={Math.max(cell - 2, 1)}
                  height={Math.max(y(day.lowest_percent) - y(high), 2)}
                  fill="var(--color-level)"
                />
                {under >= WORTH_PERCENT && (
                  <rect
                    x={x}
                    y={row * ROW + ROW - 5}
                    width={cell}
                    height={5}
                    fill="var(--color-danger)"
                    fillOpacity={0.25 + (0.75 * under) / Math.max(worst, 1)}
                  >
                    <title>{`goes under in ${Math.round(under)} of 100 tries`}</title>
                  </rect>
                )}
                {i >= first && i < first + count && (
                  <rect
                    x={x}
                    y={row * ROW + 1}
                    width={cell}
                    height={ROW - 3}
                    fill="var(--color-sun)"
                    fillOpacity=".25"
                  />
                )}
              </g>
            );
          })}
          {[1, 5, 10, 15, 20, 25, 30].map((date) => (
            <text
              key={date}
              x={LEFT + (date - 0.5) * cell}
              y={months.length * ROW + 14}
              textAnchor="middle"
              fontSize="13"
              fill="var(--color-ash)"
            >
              {date}
            </text>
          ))}
        </svg>
      </div>
      <Slider.Root
        className="relative flex h-7 w-full touch-none items-center"
        min={0}
        max={Math.max(run.days.length - count, 1)}
        step={1}
        value={[first]}
        onValueChange={([next]) => next !== undefined && onFirst(next)}
      >
        <Slider.Track className="relative h-1.5 grow rounded-full bg-line" />
        <Slider.Thumb
          aria-label="First day on the board"
          aria-valuetext={run.days[first]?.date}
          className="block size-5 rounded-full border-2 border-white bg-rim shadow"
        />
      </Slider.Root>
      <p className="text-sm text-ash">
        Dark is each day's level, pale how low it gets in the worst trip of ten, shaded the dull
        days, red where it may go under. Press a day to see its fortnight below.
      </p>
    </section>
  );
}

function MonthName(props: { month: string; y: number; width: number; floor: number }) {
  const { month, y, width, floor } = props;
  const line = y + 3 + (ROW - 8) * (1 - floor / 100);
  const name = new Date(`${month}-15T12:00`).toLocaleDateString("en-GB", {
    month: "short",
    year: "numeric",
  });
  return (
    <>
      <rect
        x={LEFT}
        y={y + 2}
        width={Math.max(width - LEFT - 4, 0)}
        height={ROW - 5}
        fill="var(--color-day)"
      />
      <text x={2} y={y + ROW / 2 + 4} fontSize="13" fill="var(--color-ink)">
        {name}
      </text>
      <line
        x1={LEFT}
        x2={width - 4}
        y1={line}
        y2={line}
        stroke="var(--color-danger)"
        strokeDasharray="5 4"
      />
    </>
  );
}
