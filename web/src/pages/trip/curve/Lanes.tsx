import { memo } from "react";
import type { Block } from "../../../api/client";
import type { CurveScale } from "../../../curve/scale";
import { areaPath, type Point, stairPoints } from "../../../drawing/paths";
import { useDrag } from "../../../ui/useDrag";
import { pulled, type Span, spanOf } from "../board/blocks/blocks";
import type { Lane } from "./lanes";

export const LANE_HIGH = 14;
export const LANE_GAP = 6;
const STILL_PX = 4;
/** A block is never too thin to be seen. */
const THINNEST_PX = 4;

interface Props {
  lanes: readonly Lane[];
  scale: CurveScale;
  /** Days of the whole trip: a block is dragged as far as they go. */
  days: number;
  /** Minutes from the trip's first midnight to the scale's first step. */
  fromMin: number;
  onPull: (block: Block, span: Span) => void;
  onRelease: (did: string) => void;
  onChoose: (day: number) => void;
}

/** What charges and what is used, lane by lane under the curve; a block is dragged along its lane. */
export function Lanes({ lanes, ...rest }: Props) {
  return lanes.map((lane, i) => (
    <g key={lane.key} transform={`translate(0 ${i * (LANE_HIGH + LANE_GAP)})`} data-lane={lane.key}>
      <text x={-8} y={LANE_HIGH - 3} textAnchor="end" fontSize="13" fill="var(--color-ash)">
        {lane.text}
      </text>
      <rect
        width={rest.scale.width}
        height={LANE_HIGH}
        rx="4"
        fill="var(--color-band)"
        fillOpacity=".55"
      />
      {lane.amps && <Current amps={lane.amps} fill={lane.fill} scale={rest.scale} />}
      {lane.blocks.map((block) => (
        <LaneBlock key={block.id} block={block} lane={lane} {...rest} />
      ))}
    </g>
  ));
}

/** A current as an area that fills its lane where it is strongest. */
const Current = memo(function Current(props: {
  amps: readonly number[];
  fill: string;
  scale: CurveScale;
}) {
  const { amps, fill, scale } = props;
  const { from, to, width, x } = scale;
  const every = Math.max(1, Math.floor((to - from) / Math.max(width, 1)));
  const means: number[] = [];
  for (let step = from; step < to; step += every) {
    const some = amps.slice(step, Math.min(step + every, to));
    means.push(some.reduce((sum, one) => sum + one, 0) / Math.max(some.length, 1));
  }
  const most = means.reduce((high, one) => Math.max(high, one), 0);
  if (most <= 0) return null;
  const points: Point[] = stairPoints(
    means,
    (i) => x(Math.min(from + i * every, to)),
    (one) => LANE_HIGH - (one / most) * LANE_HIGH,
  );
  return <path d={areaPath(points, LANE_HIGH)} fill={fill} />;
});

function LaneBlock(props: Omit<Props, "lanes"> & { block: Block; lane: Lane }) {
  const { block, lane, scale, days, fromMin } = props;
  const span = spanOf(block);
  const x = (minute: number) => scale.x(scale.from + (minute - fromMin) / scale.stepMin);
  const dragged = useDrag<{ x: number; span: Span; moved: boolean }>({
    begin: (event) => ({ x: event.clientX, span, moved: false }),
    move: (from, event) => {
      const dx = event.clientX - from.x;
      if (!from.moved && Math.abs(dx) < STILL_PX) return;
      from.moved = true;
      const perPx = x(1) - x(0) || 1;
      props.onPull(block, pulled(from.span, "body", dx / perPx, days));
    },
    end: (from) =>
      from.moved
        ? props.onRelease(`moved a ${block.kind.replace("_", " ")}`)
        : props.onChoose(block.day),
  });
  const left = Math.max(x(span.from), 0);
  const right = Math.min(x(span.to), scale.width);
  if (right < 0 || left > scale.width) return null;
  const hollow = lane.amps !== undefined;
  return (
    // The chosen day below has the same block with its keys.
    <rect
      className="grab"
      data-lane-block={block.id}
      x={left}
      y={0.75}
      width={Math.max(right - left, THINNEST_PX)}
      height={LANE_HIGH - 1.5}
      rx="4"
      fill={hollow ? "transparent" : lane.fill}
      stroke={lane.stroke}
      strokeWidth="1.5"
      {...dragged()}
    />
  );
}
