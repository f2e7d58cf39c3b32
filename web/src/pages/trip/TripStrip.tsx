import { Slider } from "radix-ui";
import type { RunReport } from "../../api/client";
import { areaPath, linePath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { dayName } from "../../quantities/clock";

const HEIGHT = 58;

interface Props {
  run: RunReport;
  floor: number;
  /** First day shown on the board, and how many. */
  first: number;
  count: number;
  onFirst: (first: number) => void;
}

/** A long trip's whole level, and the window of days that the board shows. */
export function TripStrip({ run, floor, first, count, onFirst }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const levels = run.series?.level_percent ?? [];
  const days = run.days.length;
  const x = (step: number) => (step / Math.max(levels.length - 1, 1)) * width;
  const y = (level: number) => 3 + (HEIGHT - 6) * (1 - level / 100);
  const every = Math.max(1, Math.floor(levels.length / Math.max(width, 1)));
  const points = levels.flatMap((level, i) => (i % every ? [] : [{ x: x(i), y: y(level) }]));
  const from = run.days[first];
  const to = run.days[Math.min(first + count, days) - 1];
  if (!from || !to) return null;
  const shown = `${dayName(from.date, true)} to ${dayName(to.date, true)}`;
  return (
    <section className="plate mb-3 px-3 py-2" aria-label="The whole trip">
      <div ref={ref} className="min-w-0">
        <svg width={width} height={HEIGHT} className="block" aria-hidden="true">
          <rect
            x={x(from.first_step)}
            width={Math.max(x(to.first_step + to.steps) - x(from.first_step), 3)}
            height={HEIGHT}
            fill="var(--color-day)"
            stroke="var(--color-sun)"
          />
          <path d={areaPath(points, HEIGHT)} fill="var(--color-level-tint)" fillOpacity=".6" />
          <path d={linePath(points)} fill="none" stroke="var(--color-level)" strokeWidth="1.8" />
          <line
            x2={width}
            y1={y(floor)}
            y2={y(floor)}
            stroke="var(--color-danger)"
            strokeDasharray="5 4"
            strokeWidth="1.5"
          />
        </svg>
      </div>
      <Slider.Root
        className="relative flex h-7 w-full touch-none items-center"
        min={0}
        max={Math.max(days - count, 1)}
        step={1}
        value={[first]}
        onValueChange={([next]) => next !== undefined && onFirst(next)}
      >
        <Slider.Track className="relative h-1.5 grow rounded-full bg-line" />
        <Slider.Thumb
          aria-label="First day on the board"
          aria-valuetext={shown}
          className="block size-5 rounded-full border-2 border-white bg-rim shadow"
        />
      </Slider.Root>
      <p className="text-sm text-ash">
        The board shows {shown} of {days} days; slide to see others.
      </p>
    </section>
  );
}
