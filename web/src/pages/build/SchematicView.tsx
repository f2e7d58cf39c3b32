import type { KeyboardEvent } from "react";
import type { CircuitReport, Drawing } from "../../api/client";
import { Wide } from "../../ui/Wide";
import { WIRE } from "./circuits";

interface Props {
  drawing: Drawing;
  circuits: readonly CircuitReport[];
  chosen: number | null;
  onChoose: (circuit: number) => void;
}

type Shape = Drawing["shapes"][number];
const INSIDE = 3.2;
const LINE = 3.7;
const PAPER = "var(--color-plate)";

/** The schematic as it was laid out; a wire or symbol opens its circuit. */
export function SchematicView({ drawing, circuits, chosen, onChoose }: Props) {
  const faint = (circuit?: number | null) =>
    chosen !== null && circuit != null && circuit !== chosen ? 0.34 : 1;
  return (
    <Wide label="Schematic">
      <svg
        className="w-full min-w-[46rem]"
        viewBox={`0 8 ${drawing.width} ${drawing.height - 8}`}
        role="group"
        aria-label="Schematic, drawn"
        fontFamily="var(--font-body)"
      >
        {drawing.wires.map((wire) => (
          <polyline
            key={`${wire.circuit}-${wire.negative}-${wire.points.join(" ")}`}
            points={wire.points.map((point) => point.join(",")).join(" ")}
            fill="none"
            stroke={WIRE[wire.ink].colour}
            strokeWidth={wire.negative ? 0.4 : wire.circuit === chosen ? 1.3 : 0.8}
            strokeDasharray={wire.negative ? "1.6 1.1" : WIRE[wire.ink].dash}
            opacity={faint(wire.circuit)}
          />
        ))}
        {drawing.shapes.map((shape) => (
          <PartSymbol
            key={`${shape.kind}-${shape.x}-${shape.y}`}
            shape={shape}
            opacity={faint(shape.circuit)}
          />
        ))}
        {drawing.labels.slice(1).map((label) => (
          <text
            key={`${label.x}-${label.y}`}
            x={label.x}
            y={label.y}
            fontSize={label.size}
            fontWeight={label.bold ? 700 : undefined}
            textAnchor={label.anchor}
            fill="var(--color-ink)"
            opacity={faint(label.circuit)}
          >
            {label.text}
          </text>
        ))}
        {circuits.map((circuit) => (
          <Target
            key={circuit.key}
            circuit={circuit}
            shapes={drawing.shapes.filter((shape) => shape.circuit === circuit.number)}
            onChoose={onChoose}
          />
        ))}
      </svg>
    </Wide>
  );
}

/** Its paper stays opaque, so that no wire shows through a faint one. */
function PartSymbol({ shape, opacity }: { shape: Shape; opacity: number }) {
  const { x, y, w, h, kind } = shape;
  const { colour } = WIRE[shape.ink];
  const middle = y + h / 2;
  if (kind === "dot")
    return <circle cx={x + w / 2} cy={middle} r={w / 2} fill={colour} opacity={opacity} />;
  if (kind === "bar") return <rect x={x} y={y} width={w} height={h} fill={colour} />;
  if (kind === "breaker" || kind === "switch") {
    return (
      <>
        <rect x={x} y={y - 2} width={w} height={h + 2} fill={PAPER} />
        <path
          d={`M${x} ${middle} h2.5 l6 -3 M${x + w} ${middle} h-2.5`}
          fill="none"
          stroke={colour}
          strokeWidth={0.8}
          opacity={opacity}
        />
        {kind === "breaker" && (
          <path
            d={`M${x + 4} ${middle - 2.6} l1.6 3`}
            stroke={colour}
            strokeWidth={0.6}
            opacity={opacity}
          />
        )}
      </>
    );
  }
  const first = middle - ((shape.lines.length - 1) * LINE) / 2 + 1.05;
  return (
    <>
      <rect
        x={x}
        y={y}
        width={w}
        height={h}
        rx={kind === "battery" ? 2.4 : 0.9}
        fill={PAPER}
        stroke={colour}
        strokeWidth={kind === "battery" ? 0.9 : 0.5}
        strokeOpacity={opacity}
      />
      {kind === "fuse" && (
        <line
          x1={x}
          x2={x + w}
          y1={middle}
          y2={middle}
          stroke={colour}
          strokeWidth={0.5}
          opacity={opacity}
        />
      )}
      {shape.lines.map((line, n) => (
        <text
          key={line}
          x={x + w / 2}
          y={first + n * LINE}
          fontSize={INSIDE}
          fontWeight={kind === "number" ? 700 : undefined}
          textAnchor="middle"
          fill="var(--color-ink)"
          opacity={opacity}
        >
          {line}
        </text>
      ))}
    </>
  );
}

interface TargetProps {
  circuit: CircuitReport;
  shapes: readonly Shape[];
  onChoose: (circuit: number) => void;
}

/** A generous place to press for each circuit: all that is drawn of it. */
function Target({ circuit, shapes, onChoose }: TargetProps) {
  const drawn = shapes.filter((shape) => shape.kind !== "dot");
  if (drawn.length === 0) return null;
  const left = Math.min(...drawn.map((shape) => shape.x));
  const right = Math.max(...drawn.map((shape) => shape.x + shape.w));
  const top = Math.min(...drawn.map((shape) => shape.y));
  const low = Math.max(...drawn.map((shape) => shape.y + shape.h));
  function key(event: KeyboardEvent) {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    onChoose(circuit.number);
  }
  return (
    <rect
      x={left}
      y={top}
      width={right - left}
      height={low - top}
      fill="transparent"
      className="cursor-pointer"
      role="button"
      tabIndex={0}
      aria-label={`Circuit ${circuit.number}, ${circuit.name}`}
      onClick={() => onChoose(circuit.number)}
      onKeyDown={key}
    />
  );
}
