import { type KeyboardEvent, useRef } from "react";
import type { Block, BlockKind, BlockTold, Series } from "../../../../api/client";
import { areaPath } from "../../../../drawing/paths";
import { MARKS, wentWords } from "../../../../plan/howWent";
import { clockOf, DAY_MIN, dayName } from "../../../../quantities/clock";
import { clockText } from "../../../../quantities/habits";
import { useHabits } from "../../../../quantities/useHabits";
import { patternOf, sourceOfBlock } from "../../../../sources";
import { datumUnder, useDrag } from "../../../../ui/useDrag";
import type { RowShape } from "../geometry";
import { blockFacts, type Grip, partOnDay, pulled, type Span, spanOf } from "./blocks";

interface Props {
  block: Block;
  day: number;
  days: number;
  date: string;
  width: number;
  shape: RowShape;
  series: Series;
  firstStep: number;
  /** The current that the block lets flow, drawn inside it, and what fills it [A]. */
  flow: { taken: readonly number[]; limitA: number } | undefined;
  /** How it went by the log. */
  told: BlockTold | undefined;
  onPull: (span: Span) => void;
  onRelease: () => void;
  onKeyPull: (span: Span) => void;
  onRemove: () => void;
  onOpen: (x: number) => void;
}

interface Look {
  where: "lane" | "panel" | "band";
  fill: string;
  stroke: string;
}
const OTHERS: Partial<Record<BlockKind, Look>> = {
  outage: { where: "lane", fill: "url(#pat-outage)", stroke: "var(--color-danger)" },
  panel_out: { where: "panel", fill: "url(#pat-sun)", stroke: "var(--color-sun-ink)" },
  quiet: { where: "band", fill: "url(#pat-quiet)", stroke: "var(--color-ash)" },
  second_bank: { where: "band", fill: "var(--color-level)", stroke: "var(--color-level)" },
};
const PLAIN: Look = { where: "lane", fill: "var(--color-band)", stroke: "var(--color-ash)" };

function lookOfBlock(kind: BlockKind): Look {
  const source = sourceOfBlock(kind);
  if (!source) return OTHERS[kind] ?? PLAIN;
  const ink = `var(--color-${source.key})`;
  return { where: "lane", fill: `var(--color-${source.key}-tint)`, stroke: ink };
}

const GRIP_PX = 9;
const STILL_PX = 4;
/** From so many pixels on its name stands on a block. */
const NAMED_PX = 46;

/** A block on the board: drag its body or an edge, or focus it and use the arrows. */
export function BlockShape(props: Props) {
  const { block, day, days, date, width, shape, series, firstStep, flow, told } = props;
  const habits = useHabits();
  const span = spanOf(block);
  // Dragged to another day it keeps its place here, unseen: what holds the pointer must not go.
  const last = useRef<Span | null>(null);
  const here = partOnDay(span, day);
  const part = here ?? last.current;
  last.current = part;
  const perMin = width / DAY_MIN;
  const dragged = useDrag<{ x: number; span: Span; grip: Grip; moved: boolean }, Grip>({
    begin: (event, grip) => {
      event.stopPropagation();
      return { x: event.clientX, span, grip, moved: false };
    },
    move: (from, event) => {
      // Onto a day's column it goes with its hours: sideways is no time there.
      const onColumn = from.grip === "body" && datumUnder(event, "column") !== undefined;
      const dx = onColumn ? 0 : event.clientX - from.x;
      // The row that the pointer is over; its own when it is over none.
      const rows = from.grip === "body" ? Number(datumUnder(event, "day") ?? day) - day : 0;
      if (!from.moved && Math.abs(dx) < STILL_PX && rows === 0) return;
      from.moved = true;
      props.onPull(pulled(from.span, from.grip, dx / perMin + rows * DAY_MIN, days));
    },
    end: (from) => (from.moved ? props.onRelease() : props.onOpen((part?.from ?? 0) * perMin)),
  });
  if (!part) return null;
  const left = part.from * perMin;
  const wide = Math.max((part.to - part.from) * perMin, 3);
  const look = lookOfBlock(block.kind);
  const source = sourceOfBlock(block.kind);
  const thin = look.where !== "lane";
  const top = shape[`${look.where}Top`];
  const tall = shape[`${look.where}Height`];

  function key(event: KeyboardEvent) {
    const step = event.ctrlKey || event.metaKey ? 60 : 5;
    const sideways = { ArrowLeft: -step, ArrowRight: step }[event.key];
    const rows = { ArrowUp: -DAY_MIN, ArrowDown: DAY_MIN }[event.key];
    if (sideways !== undefined) {
      props.onKeyPull(pulled(span, event.shiftKey ? "end" : "body", sideways, days));
    } else if (rows !== undefined && !event.shiftKey) {
      props.onKeyPull(pulled(span, "body", rows, days));
    } else if (event.key === "Delete" || event.key === "Backspace") props.onRemove();
    else if (event.key === "Enter" || event.key === " ") props.onOpen(left);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const name = block.idling ? "idling" : blockFacts(block.kind).text;
  const went = told ? wentWords(told) : "";
  const mark = MARKS[told?.state ?? "ahead"];
  const hours = `${clockText(block.start, habits)} to ${clockText(clockOf(span.to % DAY_MIN || DAY_MIN), habits)}`;
  const fill = flow
    ? fillPath(flow.taken, part, firstStep, series.step_min, perMin, shape, flow.limitA)
    : "";
  // Handles reach above and below a thin bar, and never cover a short block whole.
  const grip = Math.min(GRIP_PX, wide / 3);
  const reach = thin ? 3 : 1;
  const named = !thin && wide > NAMED_PX;

  return (
    <g
      role="button"
      tabIndex={0}
      data-block={block.id}
      aria-label={`${name}, ${dayName(date)}, ${hours}${went && `, ${went}`}. Arrows move it, shift and arrows stretch it, delete removes it.`}
      onKeyDown={key}
      data-told={told?.state}
      opacity={here ? (told?.state === "did_not" ? 0.55 : 1) : 0}
    >
      <rect
        x={left}
        y={top}
        width={wide}
        height={tall}
        rx={thin ? 2 : 4}
        fill={look.fill}
        stroke={look.stroke}
        strokeWidth={thin ? 0.8 : 1.3}
      />
      {fill && <path d={fill} fill={source && patternOf(source.key)} />}
      {told?.state === "did_not" && (
        <line
          x1={left}
          x2={left + wide}
          y1={top + tall}
          y2={top}
          stroke="var(--color-ink)"
          strokeWidth="1.6"
        />
      )}
      {mark && (
        <text
          x={left + wide + 3}
          y={top + tall / 2 + 4}
          fontSize={12}
          fontWeight={700}
          fill="var(--color-ink)"
          stroke="var(--color-plate)"
          strokeWidth={3}
          paintOrder="stroke"
          className="pointer-events-none select-none"
        >
          {mark}
        </text>
      )}
      {named && (
        <text
          x={left + 6}
          y={top + tall / 2 + 4}
          fontSize={12}
          fontWeight={650}
          fill="var(--color-ink)"
          stroke="var(--color-plate)"
          strokeWidth={3}
          paintOrder="stroke"
          className="pointer-events-none select-none"
        >
          {name}
        </text>
      )}
      <rect
        className="grab"
        x={left}
        y={top - reach}
        width={wide}
        height={tall + 2 * reach}
        fill="transparent"
        {...dragged("body")}
      >
        {/* Where its name stands on it, a title would be read beside that. */}
        {!named && <title>{`${name}, ${dayName(date)}, ${hours}${went && `, ${went}`}`}</title>}
      </rect>
      {part.from === span.from - day * DAY_MIN && (
        <rect
          className="stretch"
          x={left - 4}
          y={top - reach}
          width={grip + 4}
          height={tall + 2 * reach}
          fill="transparent"
          {...dragged("start")}
        />
      )}
      {part.to === span.to - day * DAY_MIN && (
        <rect
          className="stretch"
          x={left + wide - grip}
          y={top - reach}
          width={grip + 4}
          height={tall + 2 * reach}
          fill="transparent"
          {...dragged("end")}
        />
      )}
    </g>
  );
}

/** The current that really flowed, drawn inside the block: full height is the charger's rating. */
function fillPath(
  taken: readonly number[],
  part: Span,
  firstStep: number,
  stepMin: number,
  perMin: number,
  shape: RowShape,
  limitA: number,
): string {
  if (limitA <= 0) return "";
  const base = shape.laneTop + shape.laneHeight;
  const points = [];
  for (let minute = part.from; minute < part.to; minute += stepMin) {
    const amps = taken[firstStep + Math.floor(minute / stepMin)] ?? 0;
    const y = base - Math.min(amps / limitA, 1) * shape.laneHeight;
    points.push({ x: minute * perMin, y });
    points.push({ x: Math.min(minute + stepMin, part.to) * perMin, y });
  }
  return areaPath(points, base);
}
