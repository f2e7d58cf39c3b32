import { memo, useState } from "react";
import type {
  Block,
  DayReport,
  Hours,
  LogEntry,
  Plan,
  RunReport,
  Track,
} from "../../../api/client";
import { ReserveLine } from "../../../curve/LevelCurve";
import { DAY_MIN, dayName, minutesOf } from "../../../quantities/clock";
import { type SourceGroup, type SourcePart, sourceOfBlock } from "../../../sources";
import { BlockShape } from "./blocks/BlockShape";
import { partOnDay, spanOf } from "./blocks/blocks";
import { DayPlot } from "./DayPlot";
import type { RowActions } from "./DayRow";
import type { RowShape } from "./geometry";
import { ReadingMarks } from "./ReadingMarks";
import { ReserveHandle } from "./ReserveHandle";

export interface CanvasProps {
  /** What the sources of each kind put in, step by step [A]. */
  taken: ReadonlyMap<SourceGroup, readonly number[]>;
  index: number;
  day: DayReport;
  plan: Plan;
  run: RunReport;
  width: number;
  shape: RowShape;
  perAmp: number;
  entries: readonly LogEntry[];
  track: Track | null;
  actions: RowActions;
  /** Whether its reserve is reached by Tab: one on a page is enough. */
  tab: boolean;
}

/** Daily quiet hours, as a band along the top; they are set on the Use page. */
function QuietMark(props: { hours: Hours; width: number; shape: RowShape }) {
  const { hours, width, shape } = props;
  const from = minutesOf(hours.start);
  const to = minutesOf(hours.end);
  const parts =
    to > from
      ? [[from, to]]
      : [
          [from, DAY_MIN],
          [0, to],
        ];
  return parts.map(([start = 0, end = 0]) => (
    <rect
      key={start}
      x={(start / DAY_MIN) * width}
      width={((end - start) / DAY_MIN) * width}
      y={shape.bandTop}
      height={shape.bandHeight}
      fill="url(#pat-quiet)"
      stroke="var(--color-ash)"
      strokeWidth="0.6"
    >
      <title>{`radio-quiet every day, ${hours.start} to ${hours.end}`}</title>
    </rect>
  ));
}

/** The current that fills a block: the sources' rating together, or what was really passed. */
function fullHeight(sources: readonly SourcePart[], amps: readonly number[]): number {
  const rated = sources.reduce(
    (sum, c) => sum + ("limit_a" in c && !("kind" in c && c.kind === "relay") ? c.limit_a : 0),
    0,
  );
  return rated > 0 ? rated : amps.reduce((most, a) => Math.max(most, a), 0);
}

/** One day's picture, with its blocks to be dragged and its reserve. */
export const DayCanvas = memo(function DayCanvas(props: CanvasProps) {
  const { index, day, plan, run, width, shape, perAmp, entries, track, actions, taken } = props;
  const { series } = run;
  // What is dragged to another day stays here until it is let go: it holds the pointer.
  const [held, setHeld] = useState<string | null>(null);
  const label = dayName(day.date, run.days.length > 28);
  const said = new Map(track?.blocks?.map((one) => [one.key, one]));
  const floor = plan.trip.floor_percent;
  const tall = shape.levelBottom - shape.levelTop;
  const floorY = shape.levelBottom - (floor / 100) * tall;
  if (!series) return null;

  const here = plan.trip.blocks.filter(
    (block) => block.id === held || partOnDay(spanOf(block), index) !== null,
  );
  const flowIn = (kind: Block["kind"]) => {
    const group = sourceOfBlock(kind)?.key;
    const amps = group && taken.get(group);
    return amps && { taken: amps, limitA: fullHeight(plan.box[group], amps) };
  };

  return (
    <svg
      width={width}
      height={shape.height}
      className="block overflow-visible"
      data-plot={index}
      role="group"
      aria-label={`${label}: level and blocks`}
      onPointerMove={(event) => {
        // While something is dragged, what is dragged is what one looks at.
        if (event.buttons !== 0) return;
        const rect = event.currentTarget.getBoundingClientRect();
        actions.hover(index, (event.clientX - rect.left) / rect.width);
      }}
    >
      <DayPlot
        day={day}
        series={series}
        sunA={taken.get("sun") ?? []}
        band={run.odds?.band ?? null}
        now={track?.now_step ?? null}
        floor={floor}
        width={width}
        shape={shape}
        perAmp={perAmp}
      />
      {plan.use.quiet_hours.map((hours) => (
        <QuietMark key={hours.start} hours={hours} width={width} shape={shape} />
      ))}
      <ReadingMarks
        entries={entries}
        from={day.first_step}
        to={day.first_step + day.steps}
        x={(step) => ((step - day.first_step) / day.steps) * width}
        y={(level) => shape.levelBottom - (level / 100) * tall}
      />
      <ReserveLine y={floorY} width={width} />
      <ReserveHandle
        floor={floor}
        y={floorY}
        perPx={100 / tall}
        width={width}
        tabIndex={props.tab ? 0 : -1}
        onFloor={actions.floor}
      />
      {here.map((block) => (
        <BlockShape
          key={block.id}
          block={block}
          day={index}
          days={plan.trip.days.length}
          date={day.date}
          width={width}
          shape={shape}
          series={series}
          firstStep={day.first_step}
          flow={flowIn(block.kind)}
          told={said.get(block.id)}
          onPull={(span) => {
            if (held !== block.id) setHeld(block.id);
            actions.pull(block, span);
          }}
          onRelease={() => {
            setHeld(null);
            actions.release(`moved a ${block.kind.replace("_", " ")}`);
          }}
          onKeyPull={(span) => actions.keyPull(block, span)}
          onRemove={() => actions.remove(block)}
          onOpen={(x) => actions.open(block, index, x)}
        />
      ))}
    </svg>
  );
});
