import { scaleLinear } from "d3-scale";
import type { KeyboardEvent, PointerEvent } from "react";
import { Link } from "react-router";
import type { Odds } from "../../api/client";
import { areaPath, linePath, ringPath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { useCursor, usePlanState } from "../../plan/context";
import { Figure } from "../../plan/sums";
import { useTrack } from "../../plan/useLog";
import { clockOf, DAY_MIN, dayName } from "../../quantities/clock";
import { clockText } from "../../quantities/habits";
import { percentText } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { useDrag } from "../../ui/useDrag";

const HEIGHT = 34;

/** The whole trip's level, in sight on every page but Trip; it moves as anything is edited. */
export default function LevelStrip() {
  const { run, draft, plan, asPlanned } = usePlanState();
  const followed = useTrack();
  const track = followed?.begun && !asPlanned ? followed : null;
  const [ref, width] = useWidth<HTMLDivElement>();
  const habits = useHabits();
  const [cursor, setCursor] = useCursor();
  const { series } = run;
  const dragged = useDrag<DOMRect>({
    begin: (event) => {
      const box = event.currentTarget.getBoundingClientRect();
      pointed(box, event);
      return box;
    },
    move: pointed,
  });
  if (!series) return null;
  const stepMin = series.step_min;
  const levels = series.level_percent;
  const x = scaleLinear([0, levels.length - 1], [0, width]);
  const y = scaleLinear([0, 100], [HEIGHT - 3, 4]);
  const every = Math.max(1, Math.floor(levels.length / Math.max(width, 1)));
  const points = levels.flatMap((level, i) =>
    i % every === 0 || i === levels.length - 1 ? [{ x: x(i), y: y(level) }] : [],
  );
  const floor = draft.trip.floor_percent;
  const steps = levels.length - 1;
  const day = run.days[cursor.day];
  const step = Math.min((day?.first_step ?? 0) + Math.floor(cursor.minute / stepMin), steps - 1);

  function look(wanted: number) {
    const at = Math.min(Math.max(Math.round(wanted), 0), steps - 1);
    const index = run.days.findLastIndex((other) => other.first_step <= at);
    const first = run.days[index]?.first_step ?? 0;
    setCursor({ day: Math.max(index, 0), minute: (at - first) * stepMin });
  }
  function pointed(box: DOMRect, event: PointerEvent<Element>) {
    look(((event.clientX - box.left) / Math.max(box.width, 1)) * steps);
  }
  function key(event: KeyboardEvent) {
    const wide = event.ctrlKey || event.metaKey ? DAY_MIN / stepMin : 1;
    const by = { ArrowLeft: -wide, ArrowRight: wide, PageUp: -wide * 12, PageDown: wide * 12 }[
      event.key
    ];
    if (by === undefined) return;
    event.preventDefault();
    look(step + by);
  }

  return (
    <section
      aria-label="Battery level over the whole trip"
      className="mt-2 grid min-h-11 grid-cols-[auto_1fr] items-center gap-x-4 rounded-xl border-[1.5px] border-line bg-plate px-3 py-1 sm:grid-cols-[minmax(0,29rem)_1fr_auto] print:hidden"
    >
      <p className="min-w-0 leading-tight">
        <strong className="font-head max-sm:sr-only sm:line-clamp-1">
          {track ? track.rest.headline : run.headline}
        </strong>{" "}
        <span className="text-sm text-ash">
          {track ? (
            <span data-testid="strip-lowest">
              <span className="max-sm:hidden">now {Math.round(track.level.middle)} %; </span>
              lowest {percentText(track.rest.lowest.low)} to {percentText(track.rest.lowest.high)}
            </span>
          ) : (
            <PlanLowest />
          )}
        </span>
      </p>
      <div
        ref={ref}
        role="slider"
        tabIndex={0}
        aria-label="Moment that is looked at"
        aria-valuemin={0}
        aria-valuemax={steps - 1}
        aria-valuenow={step}
        aria-valuetext={`${dayName(day?.date ?? "")}, ${clockText(clockOf(cursor.minute), habits)}: ${percentText(levels[step] ?? 0)}`}
        className="min-w-0 cursor-ew-resize touch-pan-y"
        onKeyDown={key}
        {...dragged()}
      >
        <svg width={width} height={HEIGHT} className="block" aria-hidden="true">
          {run.days.map((day, i) =>
            i % 2 ? null : (
              <rect
                key={day.date}
                x={x(day.first_step)}
                width={x(day.steps)}
                height={HEIGHT}
                fill="var(--color-band)"
                fillOpacity=".55"
              />
            ),
          )}
          <path d={areaPath(points, HEIGHT)} fill="var(--color-level-tint)" fillOpacity=".55" />
          {track && (
            <rect
              width={x(track.now_step)}
              height={HEIGHT}
              fill="url(#pat-gone)"
              data-testid="gone"
            />
          )}
          {(track?.rest ?? run.odds) && (
            <BandPath band={(track?.rest ?? run.odds)?.band} stepMin={stepMin} x={x} y={y} />
          )}
          <path
            d={linePath(points)}
            fill="none"
            stroke={track ? "var(--color-ink)" : "var(--color-level)"}
            strokeOpacity={track ? 0.6 : 1}
            strokeWidth={track ? 1.1 : 2.2}
          />
          {track && <MiddlePath band={track.rest.band} stepMin={stepMin} x={x} y={y} />}
          <line
            x1={0}
            x2={width}
            y1={Math.round(y(floor))}
            y2={Math.round(y(floor))}
            stroke="var(--color-danger)"
            strokeWidth="2"
            strokeDasharray="5 4"
          />
          <line x1={x(step)} x2={x(step)} y2={HEIGHT} stroke="var(--color-rim)" strokeWidth="1.5" />
          <circle
            cx={x(step)}
            cy={y(levels[step] ?? 0)}
            r="4"
            fill="var(--color-plate)"
            stroke="var(--color-rim)"
            strokeWidth="2"
          />
        </svg>
      </div>
      <Link className="text-sm underline max-sm:hidden" to={`/plan/${plan.id}/trip`}>
        open the trip
      </Link>
    </section>
  );
}

/** The lowest level as planned, and when. */
function PlanLowest() {
  const { verdict } = usePlanState().run;
  const habits = useHabits();
  return (
    <>
      lowest{" "}
      <Figure
        of="lowest"
        label={`Lowest ${percentText(verdict.lowest_percent)}`}
        className={verdict.lasts ? "" : "font-semibold text-danger"}
        testId="strip-lowest"
      >
        {percentText(verdict.lowest_percent)}
      </Figure>
      , {dayName(verdict.lowest_at.slice(0, 10))}{" "}
      <span className="max-sm:hidden">{clockText(verdict.lowest_at.slice(11, 16), habits)}</span>
    </>
  );
}

interface BandProps {
  band: Odds["band"] | undefined;
  stepMin: number;
  x: (step: number) => number;
  y: (level: number) => number;
}

/** The middle of the band: as tracked, then as it is likeliest to go on. */
function MiddlePath({ band, stepMin, x, y }: BandProps) {
  const points = (band?.middle ?? []).map((level, i) => ({
    x: x((i * (band?.step_min ?? 1)) / stepMin),
    y: y(Math.max(level, 0)),
  }));
  return <path d={linePath(points)} fill="none" stroke="var(--color-level)" strokeWidth="2.2" />;
}

/** The band in which eight scenarios of ten run. */
function BandPath(props: BandProps) {
  const { band, stepMin, x, y } = props;
  if (!band) return null;
  const points = (values: readonly number[]) =>
    values.map((level, i) => ({ x: x((i * band.step_min) / stepMin), y: y(Math.max(level, 0)) }));
  return <path d={ringPath(points(band.high), points(band.low))} fill="url(#pat-band)" />;
}
