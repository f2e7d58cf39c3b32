import type { KeyboardEvent } from "react";
import type { Appliance, Hours } from "../../../api/client";
import { DAY_MIN } from "../../../quantities/clock";
import { type DragHandlers, useDrag } from "../../../ui/useDrag";
import { type Grip, hoursOf, pieces, pulled, type Stretch, stretchOf } from "./lanes";

interface Props {
  appliance: Appliance;
  hours: Hours;
  /** Drawn paler: these are the hours on site, shown on another kind of day. */
  borrowed: boolean;
  width: number;
  height: number;
  /** Height of the bar, by the current it draws. */
  tall: number;
  onPull: (stretch: Stretch) => void;
  onRelease: () => void;
  onKeyPull: (stretch: Stretch) => void;
}

const CYCLE_MIN = 40;
const GRIP_PX = 11;

/** One window of an appliance: drag its ends or its body, or focus it and use the arrows. */
export function LaneBar(props: Props) {
  const { appliance, hours, borrowed, width, height, tall, onPull, onRelease, onKeyPull } = props;
  const stretch = stretchOf(hours);
  const perMin = width / DAY_MIN;
  const allDay = stretch.length === DAY_MIN;
  const ink = appliance.figure === "guess" ? "url(#pat-guess)" : "var(--color-use)";
  const parts = pieces(stretch);

  const dragged = useDrag<{ x: number; stretch: Stretch; grip: Grip }, Grip>({
    begin: (event, grip) =>
      grip === "body" && allDay ? null : { x: event.clientX, stretch, grip },
    move: (from, event) =>
      onPull(pulled(from.stretch, from.grip, (event.clientX - from.x) / perMin)),
    end: onRelease,
  });
  function key(event: KeyboardEvent) {
    const step = event.ctrlKey || event.metaKey ? 60 : 5;
    const by = { ArrowLeft: -step, ArrowRight: step }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onKeyPull(pulled(stretch, event.shiftKey || allDay ? "end" : "body", by));
  }

  const shown = hoursOf(stretch);
  const flexible = appliance.flexible;
  const first = parts[0];
  const last = parts[parts.length - 1];

  return (
    <g
      role="button"
      tabIndex={0}
      opacity={borrowed ? 0.55 : 1}
      aria-label={`${appliance.name}, ${flexible ? `${flexible.minutes} min at any time, ` : ""}${allDay ? "all day" : `${shown.start} to ${shown.end}`}. Arrows move it, shift and arrows stretch it.`}
      onKeyDown={key}
    >
      {parts.map((part) => (
        <g key={part.from}>
          {flexible ? (
            <rect
              x={part.from * perMin}
              y={height - tall}
              width={Math.max((part.to - part.from) * perMin, 2.5)}
              height={tall}
              rx="2"
              fill="var(--color-use)"
              fillOpacity=".12"
              stroke="var(--color-use)"
              strokeDasharray="4 3"
            />
          ) : appliance.duty_percent < 100 ? (
            <Cycles
              from={part.from * perMin}
              to={part.to * perMin}
              pitch={CYCLE_MIN * perMin}
              share={appliance.duty_percent / 100}
              y={height - tall}
              tall={tall}
              ink={ink}
            />
          ) : (
            <rect
              x={part.from * perMin}
              y={height - tall}
              width={Math.max((part.to - part.from) * perMin, 2.5)}
              height={tall}
              rx="2"
              fill={ink}
              stroke="var(--color-use)"
            />
          )}
          <rect
            className={allDay ? "" : "grab"}
            x={part.from * perMin}
            width={Math.max((part.to - part.from) * perMin, 8)}
            height={height}
            fill="transparent"
            {...dragged("body")}
          />
        </g>
      ))}
      {first && <Handle x={first.from * perMin} height={height} drag={dragged("start")} />}
      {last && <Handle x={last.to * perMin} height={height} drag={dragged("end")} end />}
    </g>
  );
}

interface HandleProps {
  x: number;
  height: number;
  end?: boolean;
  drag: DragHandlers;
}

function Handle({ x, height, end, drag }: HandleProps) {
  return (
    <>
      <rect
        x={x - (end ? 3 : 0)}
        y={height * 0.2}
        width="3"
        height={height * 0.8}
        rx="1.5"
        fill="var(--color-rim)"
        fillOpacity=".6"
      />
      <rect
        className="stretch"
        x={x - (end ? 4 : GRIP_PX - 4)}
        width={GRIP_PX}
        height={height}
        fill="transparent"
        {...drag}
      />
    </>
  );
}

interface CyclesProps {
  from: number;
  to: number;
  pitch: number;
  share: number;
  y: number;
  tall: number;
  ink: string;
}

/** On and off as a compressor runs: the share is true, the number of cycles a sketch. */
function Cycles({ from, to, pitch, share, y, tall, ink }: CyclesProps) {
  const count = Math.max(Math.round((to - from) / pitch), 1);
  const each = (to - from) / count;
  return (
    <>
      <line x1={from} x2={to} y1={y + tall} y2={y + tall} stroke="var(--color-use)" />
      {Array.from({ length: count }, (_, i) => (
        <rect
          key={i}
          x={from + i * each}
          y={y}
          width={Math.max(each * share, 0.8)}
          height={tall}
          fill={ink}
        />
      ))}
    </>
  );
}
