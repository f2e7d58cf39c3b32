import { type KeyboardEvent, memo, type PointerEvent, useRef } from "react";
import type {
  Block,
  DayReport,
  Hours,
  LogEntry,
  Plan,
  RunReport,
  SkyKey,
  Track,
} from "../../../api/client";
import { DAY_MIN, dayName, minutesOf } from "../../../quantities/clock";
import { type SourceGroup, type SourcePart, sourceOfBlock } from "../../../sources";
import { useDrag } from "../../../ui/useDrag";
import { BlockShape } from "./blocks/BlockShape";
import { partOnDay, type Span, spanOf } from "./blocks/blocks";
import { DayFigures } from "./DayFigures";
import { DayMenu } from "./DayMenu";
import { DayPlot } from "./DayPlot";
import type { RowShape } from "./geometry";
import { ReadingMarks } from "./ReadingMarks";
import { SkyMark } from "./SkyMark";

export interface RowActions {
  pull: (block: Block, span: Span) => void;
  release: (did: string) => void;
  keyPull: (block: Block, span: Span) => void;
  remove: (block: Block) => void;
  open: (block: Block, day: number, x: number) => void;
  sky: (day: number, sky: SkyKey) => void;
  place: (day: number, place: string) => void;
  stop: (day: number, stop: string | null) => void;
  kind: (day: number, kind: Plan["trip"]["days"][number]["kind"]) => void;
  air: (day: number, part: Pick<Plan["trip"]["days"][number], "low_c" | "high_c">) => void;
  addDay: (after: number) => void;
  removeDay: (day: number) => void;
  floor: (percent: number, done: boolean) => void;
  hover: (day: number, share: number) => void;
}

interface Props {
  /** What the sources of each kind put in, step by step [A]. */
  taken: ReadonlyMap<SourceGroup, readonly number[]>;
  index: number;
  day: DayReport;
  plan: Plan;
  run: RunReport;
  width: number;
  shape: RowShape;
  perAmp: number;
  most: number;
  entries: readonly LogEntry[];
  track: Track | null;
  actions: RowActions;
}

const FLOOR_HIT = 9;

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

export const DayRow = memo(function DayRow(props: Props) {
  const { index, day, plan, run, width, shape, perAmp, most, entries, track, actions, taken } =
    props;
  const { series } = run;
  const box = useRef<SVGSVGElement>(null);
  const label = dayName(day.date, run.days.length > 28);
  const said = new Map(track?.blocks?.map((one) => [one.key, one]));
  const sky = plan.trip.days[index]?.sky ?? "usual";
  const place = plan.trip.days[index]?.place ?? "";
  const floor = plan.trip.floor_percent;
  const floorY = shape.levelBottom - (floor / 100) * (shape.levelBottom - shape.levelTop);
  function floorAt(event: PointerEvent): number {
    const top = box.current?.getBoundingClientRect().top ?? 0;
    const share =
      (shape.levelBottom - (event.clientY - top)) / (shape.levelBottom - shape.levelTop);
    return Math.round(Math.min(Math.max(share, 0), 0.95) * 100);
  }
  const floored = useDrag<true>({
    begin: () => true,
    move: (_, event) => actions.floor(floorAt(event), false),
    end: (_, event) => actions.floor(floorAt(event), true),
  });
  if (!series) return null;

  const here = plan.trip.blocks.filter((block) => partOnDay(spanOf(block), index) !== null);
  const flowIn = (kind: Block["kind"]) => {
    const group = sourceOfBlock(kind)?.key;
    const amps = group && taken.get(group);
    return amps && { taken: amps, limitA: fullHeight(plan.box[group], amps) };
  };

  function floorKey(event: KeyboardEvent) {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    actions.floor(Math.min(Math.max(floor + by, 0), 95), true);
  }

  return (
    <div
      data-day={index}
      className="grid grid-cols-[1fr_auto] items-center gap-x-2 border-b border-line/70 pb-1 last:border-b-0 sm:grid-cols-[7.4rem_2.2rem_1fr_14.5rem] sm:border-0 sm:pb-0"
    >
      <DayMenu
        label={label}
        place={place}
        day={plan.trip.days[index]}
        report={day}
        index={index}
        only={plan.trip.days.length === 1}
        stops={plan.trip.stops}
        actions={actions}
      />
      <SkyMark sky={sky} label={label} index={index} onChange={actions.sky} />
      <div className="order-last col-span-2 min-w-0 sm:order-none sm:col-span-1">
        <svg
          ref={box}
          width={width}
          height={shape.height}
          className="block rounded-[5px]"
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
          <ReadingMarks entries={entries} day={day} width={width} shape={shape} />
          <line
            x2={width}
            y1={floorY}
            y2={floorY}
            stroke="var(--color-danger)"
            strokeWidth="1.3"
            strokeDasharray="5 4"
          />
          <rect
            role="slider"
            tabIndex={index === 0 ? 0 : -1}
            aria-label="Reserve"
            aria-orientation="vertical"
            aria-valuemin={0}
            aria-valuemax={95}
            aria-valuenow={floor}
            aria-valuetext={`${floor} %`}
            y={floorY - FLOOR_HIT / 2}
            width={width}
            height={FLOOR_HIT}
            fill="transparent"
            style={{ cursor: "ns-resize", touchAction: "none" }}
            onKeyDown={floorKey}
            {...floored()}
          >
            <title>Your reserve, drag it up or down</title>
          </rect>
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
              onPull={(span) => actions.pull(block, span)}
              onRelease={() => actions.release(`moved a ${block.kind.replace("_", " ")}`)}
              onKeyPull={(span) => actions.keyPull(block, span)}
              onRemove={() => actions.remove(block)}
              onOpen={(x) => actions.open(block, index, x)}
            />
          ))}
        </svg>
      </div>
      <div className="order-last col-span-2 sm:order-none sm:col-span-1">
        <DayFigures
          day={day}
          odds={run.odds?.days[index]}
          tracked={track !== null}
          index={index}
          label={label}
          floor={floor}
          most={most}
        />
      </div>
    </div>
  );
});
