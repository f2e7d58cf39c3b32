import type { KeyboardEvent } from "react";
import type { CircuitReport, Drawing } from "../../../api/client";
import { Wide } from "../../../ui/Wide";
import { PartSymbol } from "../enclosure/PartSymbol";
import { WIRE } from "./circuits";

interface Props {
  sheets: readonly Drawing[];
  circuits: readonly CircuitReport[];
  chosen: number | null;
  onChoose: (circuit: number) => void;
}

type Wire = Drawing["wires"][number];
type Sign = Wire["sign"];

/** Width and dashes of a line, as on paper; a negative is hollow. */
const STROKE: Record<Sign, { width: number; dash?: string }> = {
  "+": { width: 0.8 },
  "-": { width: 1.1 },
  signal: { width: 0.35, dash: "0.4 1" },
  ac: { width: 0.5, dash: "3 0.8 0.6 0.8" },
};
const HOLLOW = 0.55;

/** The wiring drawing, sheet by sheet; a wire or symbol opens its circuit. */
export function SchematicView({ sheets, ...rest }: Props) {
  return (
    <div className="grid gap-4">
      {sheets.map((sheet) => (
        <SheetView key={sheet.title} sheet={sheet} {...rest} />
      ))}
    </div>
  );
}

interface SheetProps extends Omit<Props, "sheets"> {
  sheet: Drawing;
}

function SheetView({ sheet, circuits, chosen, onChoose }: SheetProps) {
  const faint = (circuit?: number | null) =>
    chosen !== null && circuit != null && circuit !== chosen ? 0.34 : 1;
  const under = sheet.shapes.filter((shape) => shape.kind === "frame" || shape.kind === "bar");
  const over = sheet.shapes.filter((shape) => shape.kind !== "frame" && shape.kind !== "bar");
  // The bars' sheet repeats what is to be pressed on the others.
  const bars = over.some((shape) => shape.kind === "stud");
  const name = sheet.title.slice(sheet.title.lastIndexOf(": ") + 2);
  return (
    <figure className="min-w-0">
      <figcaption className="font-semibold first-letter:uppercase">{name}</figcaption>
      <Wide label={`Wiring drawing, ${name}`}>
        <svg
          className="w-full min-w-[50rem]"
          viewBox={`0 11 ${sheet.width} ${sheet.height - 11}`}
          role="group"
          aria-label={`Wiring drawing, ${name}`}
          fontFamily="var(--font-body)"
        >
          {under.map((shape) => (
            <PartSymbol key={`${shape.kind}-${shape.x}-${shape.y}`} shape={shape} opacity={1} />
          ))}
          {sheet.wires.map((wire) => (
            <WireLine
              key={`${wire.circuit}-${wire.path}`}
              wire={wire}
              thick={wire.circuit === chosen && chosen !== null}
              opacity={faint(wire.circuit)}
            />
          ))}
          {over.map((shape) => (
            <PartSymbol
              key={`${shape.kind}-${shape.circuit}-${shape.x}-${shape.y}`}
              shape={shape}
              opacity={faint(shape.circuit)}
            />
          ))}
          {sheet.labels.slice(1).map((label) => (
            <text
              key={`${label.x}-${label.y}-${label.text}`}
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
          {(bars ? [] : circuits).map((circuit) => (
            <Target
              key={circuit.key}
              circuit={circuit}
              shapes={over.filter((shape) => shape.circuit === circuit.number)}
              onChoose={onChoose}
            />
          ))}
        </svg>
      </Wide>
    </figure>
  );
}

function WireLine({ wire, thick, opacity }: { wire: Wire; thick: boolean; opacity: number }) {
  const { width, dash } = STROKE[wire.sign];
  return (
    <>
      <path
        d={wire.path}
        fill="none"
        stroke={WIRE[wire.ink].colour}
        strokeWidth={thick ? width + 0.5 : width}
        strokeDasharray={dash}
        opacity={opacity}
      />
      {wire.sign === "-" && (
        <path d={wire.path} fill="none" stroke="var(--color-plate)" strokeWidth={HOLLOW} />
      )}
    </>
  );
}

interface TargetProps {
  circuit: CircuitReport;
  shapes: readonly Drawing["shapes"][number][];
  onChoose: (circuit: number) => void;
}

/** A generous place to press for each circuit: all that is drawn of it on a sheet. */
function Target({ circuit, shapes, onChoose }: TargetProps) {
  const drawn = shapes.filter((shape) => shape.kind !== "dot" && shape.kind !== "stud");
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
