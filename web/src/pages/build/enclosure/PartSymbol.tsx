import type { Drawing } from "../../../api/client";
import { WIRE } from "../wiring/circuits";

export type DrawnShape = Drawing["shapes"][number];

const INSIDE = 3.1;
const LINE = 3.7;
const PAPER = "var(--color-plate)";

/** One symbol of the wiring drawing. Its paper stays opaque, so that no wire shows through. */
export function PartSymbol({ shape, opacity }: { shape: DrawnShape; opacity: number }) {
  const { x, y, w, h, kind } = shape;
  const { colour } = WIRE[shape.ink];
  const middle = y + h / 2;
  switch (kind) {
    case "dot":
      return <circle cx={x + w / 2} cy={middle} r={w / 2} fill={colour} opacity={opacity} />;
    case "stud":
      return (
        <circle
          cx={x + w / 2}
          cy={middle}
          r={w / 2}
          fill={PAPER}
          stroke={colour}
          strokeWidth={0.5}
        />
      );
    case "bar":
      return (
        <rect
          x={x}
          y={y}
          width={w}
          height={h}
          fill={shape.ink === "negative" ? PAPER : colour}
          stroke={colour}
          strokeWidth={0.5}
        />
      );
    case "frame":
      return (
        <rect
          x={x}
          y={y}
          width={w}
          height={h}
          rx={1.5}
          fill="none"
          stroke={colour}
          strokeWidth={0.3}
        />
      );
    case "earth":
      return (
        <path
          d={earth(x, y, w, h)}
          fill="none"
          stroke={colour}
          strokeWidth={0.45}
          opacity={opacity}
        />
      );
    case "breaker":
    case "switch":
      return <Blade shape={shape} opacity={opacity} />;
    case "plug":
      return (
        <>
          <rect x={x} y={y} width={w} height={h} fill={PAPER} stroke={colour} strokeWidth={0.3} />
          <path
            d={`M${x + 1} ${y + 0.9} l1.8 1.3 l-1.8 1.3 M${x + 1} ${y + h - 3.5} l1.8 1.3 l-1.8 1.3`}
            fill="none"
            stroke={colour}
            strokeWidth={0.5}
            opacity={opacity}
          />
        </>
      );
    default:
      return <Box shape={shape} opacity={opacity} />;
  }
}

/** A stem and three strokes, each shorter than the one above. */
function earth(x: number, y: number, w: number, h: number): string {
  const strokes = [1, 0.6, 0.25].map(
    (part, n) => `M${x + w / 2 - (w / 2) * part} ${y + h * (0.4 + 0.25 * n)} h${w * part}`,
  );
  return `M${x + w / 2} ${y} v${h * 0.4} ${strokes.join(" ")}`;
}

function Blade({ shape, opacity }: { shape: DrawnShape; opacity: number }) {
  const { x, y, w, h } = shape;
  const { colour } = WIRE[shape.ink];
  const middle = y + h / 2;
  const parted = shape.kind === "breaker" ? `M${x + 4} ${middle - 2.4} l1.6 2.6` : "";
  return (
    <>
      <rect x={x} y={y - 1} width={w} height={h + 1} fill={PAPER} />
      <path
        d={`M${x} ${middle} h2.5 l6 -2.6 M${x + w} ${middle} h-2.5 ${parted}`}
        fill="none"
        stroke={colour}
        strokeWidth={0.75}
        opacity={opacity}
      />
    </>
  );
}

function Box({ shape, opacity }: { shape: DrawnShape; opacity: number }) {
  const { x, y, w, h, kind } = shape;
  const { colour } = WIRE[shape.ink];
  const middle = y + h / 2;
  const first = middle - ((shape.lines.length - 1) * LINE) / 2 + 1.05;
  return (
    <>
      <rect
        x={x}
        y={y}
        width={w}
        height={h}
        rx={kind === "battery" ? 1.6 : 0.8}
        fill={PAPER}
        stroke={colour}
        strokeWidth={kind === "battery" ? 0.8 : 0.5}
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
