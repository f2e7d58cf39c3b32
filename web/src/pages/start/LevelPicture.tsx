import type { RunReport } from "../../api/client";
import { LevelCurve } from "../../curve/LevelCurve";
import { curveScale, GUTTER, TOP } from "../../curve/scale";
import { useWidth } from "../../drawing/useWidth";
import { dayName } from "../../quantities/clock";

const HIGH = 214;
const FOOT = 22;
/** Days whose names stand under the curve; of more, about so many of them. */
const MOST_NAMES = 8;

/** The level over the whole trip: the curve of the Trip page, without what is dragged there. */
export function LevelPicture({ run, floor }: { run: RunReport; floor: number }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const scale = curveScale(run, Math.max(width - GUTTER - 6, 0), HIGH);
  const { days } = run;
  const long = days.length > 31;
  const every = days.length <= MOST_NAMES ? 1 : Math.ceil(days.length / 6);
  return (
    <div ref={ref} className="min-w-0">
      {scale && (
        <svg
          width={width}
          height={TOP + HIGH + FOOT}
          role="img"
          className="block"
          aria-label={`The level: ${run.headline}`}
        >
          <g transform={`translate(${GUTTER} ${TOP})`}>
            <LevelCurve run={run} scale={scale} floor={floor} />
            {days.map((day, i) =>
              i % every === 0 ? (
                <text
                  key={day.date}
                  x={scale.x(day.first_step) + 3}
                  y={HIGH + 16}
                  fontSize="13"
                  fill="var(--color-ash)"
                >
                  {long ? day.date.slice(0, 7) : dayName(day.date)}
                </text>
              ) : null,
            )}
          </g>
        </svg>
      )}
      <p className="mt-1 text-ash">
        The line is what to expect; in 8 of 10 tries the level stays in the band. The red line is
        your reserve.
      </p>
    </div>
  );
}
