import { scaleLinear } from "d3-scale";
import { type PointerEvent, useRef } from "react";
import type { Sized } from "../../api/client";
import { FootFigures, LevelLines } from "../../drawing/Axes";
import { useWidth } from "../../drawing/useWidth";
import { moneyText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { SliderField } from "../../ui/fields/SliderField";
import { useDrag } from "../../ui/useDrag";

const HEIGHT = 340;
const LEFT = 48;
const BOTTOM = 44;
const MIN_DRAG = 6;

/** What is picked out: a span of prices and of certainty. */
export interface Brush {
  euro: [number, number];
  lasts: [number, number];
}

interface Props {
  designs: readonly Sized[];
  own: Sized;
  brush: Brush | null;
  onBrush: (brush: Brush | null) => void;
}

interface Place {
  x: number;
  y: number;
}

/** Cost across, certainty up, weight as size; the unbeaten are full, the plan's own is a kettle. */
export function SizesPlot({ designs, own, brush, onBrush }: Props) {
  const habits = useHabits();
  const [ref, width] = useWidth<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const most = Math.max(own.euro, ...designs.map((d) => d.euro)) * 1.04;
  const x = scaleLinear([0, most], [LEFT, Math.max(width - 12, LEFT + 1)]).clamp(true);
  const y = scaleLinear([0, 100], [HEIGHT - BOTTOM, 12]).clamp(true);
  const heaviest = Math.max(own.kg, ...designs.map((d) => d.kg), 1);
  const radius = (kg: number) => 2 + 6 * Math.sqrt(kg / heaviest);

  function at(event: PointerEvent) {
    const box = svg.current?.getBoundingClientRect();
    return { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) };
  }
  function brushed(from: Place, event: PointerEvent) {
    const to = at(event);
    if (Math.abs(to.x - from.x) < MIN_DRAG && Math.abs(to.y - from.y) < MIN_DRAG) return;
    const euro = [x.invert(from.x), x.invert(to.x)].toSorted((a, b) => a - b);
    const lasts = [y.invert(from.y), y.invert(to.y)].toSorted((a, b) => a - b);
    onBrush({
      euro: [Math.round(euro[0] ?? 0), Math.round(euro[1] ?? most)],
      lasts: [Math.round(lasts[0] ?? 0), Math.round(lasts[1] ?? 100)],
    });
  }
  const dragged = useDrag<Place>({ begin: at, move: brushed, end: brushed });
  const shown: Brush = brush ?? { euro: [0, Math.ceil(most)], lasts: [0, 100] };

  return (
    <div ref={ref}>
      <svg
        ref={svg}
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`${designs.length} mixes by price and certainty. The plan as it is: ${moneyText(habits, own.euro)}, lasts in ${Math.round(own.lasts_percent)} of 100.`}
        className="block cursor-crosshair touch-none select-none"
        {...dragged()}
      >
        <LevelLines
          ticks={[0, 25, 50, 75, 100]}
          y={y}
          from={LEFT}
          to={width - 12}
          text={(share) => `${share} %`}
        />
        <FootFigures
          ticks={x.ticks(7)}
          x={x}
          y={HEIGHT - BOTTOM + 18}
          text={(tick) => moneyText(habits, tick)}
        />
        <text x={LEFT} y={HEIGHT - 6} fontSize="12" fill="var(--color-ash)">
          Price of these parts. Up: how often it lasts. Larger: heavier. Full: not beaten. Drag to
          pick out.
        </text>
        {designs.map((d) => (
          <circle
            key={`${d.panel_w}/${d.battery_ah}/${d.dcdc_a}/${d.mains_a}`}
            cx={x(d.euro)}
            cy={y(d.lasts_percent)}
            r={radius(d.kg)}
            fill={d.front ? "var(--color-level)" : "none"}
            stroke="var(--color-level)"
            strokeOpacity={d.front ? 1 : 0.28}
          />
        ))}
        <path
          d={`M${x(own.euro)},${y(own.lasts_percent) - 9}l9,9l-9,9l-9,-9z`}
          fill="var(--color-sun)"
          stroke="var(--color-ink)"
          strokeWidth="1.6"
        >
          <title>your box</title>
        </path>
        <text
          x={x(own.euro) + 13}
          y={y(own.lasts_percent) + 4}
          fontSize="13"
          fontWeight="600"
          fill="var(--color-ink)"
          stroke="var(--color-plate)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          your box
        </text>
        {brush && (
          <rect
            x={x(brush.euro[0])}
            width={x(brush.euro[1]) - x(brush.euro[0])}
            y={y(brush.lasts[1])}
            height={y(brush.lasts[0]) - y(brush.lasts[1])}
            fill="var(--color-rim)"
            fillOpacity=".08"
            stroke="var(--color-rim)"
            strokeDasharray="5 4"
          />
        )}
      </svg>
      <div className="mt-2 grid gap-4 sm:grid-cols-2">
        <SliderField
          label="At most"
          value={Math.min(shown.euro[1], Math.ceil(most))}
          from={0}
          to={Math.ceil(most)}
          limit="PriceTag.euro_high"
          step={10}
          unit="€"
          onPreview={(v) => onBrush({ ...shown, euro: [0, v] })}
          onCommit={(v) => onBrush({ ...shown, euro: [0, v] })}
        />
        <SliderField
          label="Sure at least"
          value={shown.lasts[0]}
          from={0}
          to={100}
          limit="Trip.floor_percent"
          step={5}
          unit="%"
          onPreview={(v) => onBrush({ ...shown, lasts: [v, 100] })}
          onCommit={(v) => onBrush({ ...shown, lasts: [v, 100] })}
        />
      </div>
    </div>
  );
}
