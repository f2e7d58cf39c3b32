import type { Box } from "../../../api/client";
import type { Columns, SourceRibbon } from "./layout";

interface Props {
  box: Box;
  sources: readonly SourceRibbon[];
  c: Columns;
  chosen: boolean;
  onChoose: () => void;
}

/** How sources share the battery: a yoke over the bottlenecks of a combined charger, or a lever. */
export function JoiningShape({ box, sources, c, chosen, onChoose }: Props) {
  const { joining } = box;
  if (joining.kind === "independent") return null;
  const joined =
    joining.kind === "combined"
      ? sources.filter((source) => joining.members.includes(source.key))
      : sources;
  const first = joined[0];
  const last = joined[joined.length - 1];
  if (!first || !last || first === last) return null;
  const middle = (source: SourceRibbon) => source.top + source.open / 2;
  const x = c.neckRight + 9;
  const combined = joining.kind === "combined";
  const text = combined ? `${joining.limit_a} A in all` : "one at a time";
  const strongest = joined.reduce((best, other) => (other.takenPx > best.takenPx ? other : best));
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${text}. Open how sources are joined`}
      className="cursor-pointer"
      onClick={onChoose}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        onChoose();
      }}
    >
      <path
        d={`M${x},${middle(first)}V${middle(last)}`}
        stroke={chosen ? "var(--color-sun)" : "var(--color-rim)"}
        strokeWidth={combined ? 7 : 2.5}
        strokeLinecap="round"
        strokeDasharray={combined ? undefined : "1 6"}
      />
      {joined.map((source) => (
        <circle
          key={source.key}
          cx={x}
          cy={middle(source)}
          r="6.5"
          fill={combined ? "var(--color-rim)" : "var(--color-plate)"}
          stroke="var(--color-rim)"
          strokeWidth="2.5"
        />
      ))}
      {!combined && (
        // The lever lies on the one that is let in most.
        <path
          d={`M${x + 22},${(middle(first) + middle(last)) / 2}L${x},${middle(strongest)}`}
          stroke="var(--color-rim)"
          strokeWidth="5"
          strokeLinecap="round"
        />
      )}
      {!c.narrow && (
        <text
          x={x + (combined ? 12 : 16)}
          y={(middle(first) + middle(last)) / 2 + (combined ? 5 : 24)}
          fontSize="13"
          fontWeight="600"
          stroke="var(--color-plate)"
          strokeWidth="5"
          paintOrder="stroke"
        >
          {text}
        </text>
      )}
    </g>
  );
}

interface UnitProps {
  unit: NonNullable<Box["unit"]>;
  c: Columns;
  bottom: number;
}

/** A ready-made unit: chargers and battery in one case. */
export function UnitFrame({ unit, c, bottom }: UnitProps) {
  const left = c.neckLeft - (c.narrow ? 6 : 14);
  const comes = `${unit.capacity_wh} Wh ready-made, ${unit.usable_percent} % comes out`;
  const most = unit.input_w ? `, ${unit.input_w} W in` : "";
  const words = c.narrow ? `ready-made, ${unit.usable_percent} % comes out` : `${comes}${most}`;
  return (
    <g>
      <rect
        x={left}
        y="3"
        width={c.vesselRight + 14 - left}
        height={bottom + 2}
        rx="18"
        fill="var(--color-band)"
        fillOpacity=".35"
        stroke="var(--color-rim)"
        strokeWidth="2"
        strokeDasharray="9 5"
      />
      <text
        x={left + 18}
        y="8"
        fontSize={c.narrow ? 11 : 12.5}
        stroke="var(--color-plate)"
        strokeWidth="6"
        paintOrder="stroke"
      >
        {words}
      </text>
    </g>
  );
}
