import { scaleLinear } from "d3-scale";
import type { Tried } from "../../api/client";
import { FootFigures, LevelLines } from "../../drawing/Axes";
import { linePath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";

const HEIGHT = 240;
const LEFT = 44;
const BOTTOM = 28;

interface Props {
  tried: readonly Tried[];
  sure: number;
  unit: string;
  found: number | null;
}

/** How often it lasts, by how much is changed; every dot was run. */
export function SeekCurve({ tried, sure, unit, found }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const values = tried.map((one) => one.value);
  const first = values[0] ?? 0;
  const far = values.reduce((a, b) => (Math.abs(b - first) > Math.abs(a - first) ? b : a), first);
  const x = scaleLinear(
    [first, far === first ? first + 1 : far],
    [LEFT, Math.max(width - 26, LEFT)],
  );
  const y = scaleLinear([0, 100], [HEIGHT - BOTTOM, 10]);
  const dots = tried.toSorted((a, b) => x(a.value) - x(b.value));
  return (
    <div ref={ref}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`How often it lasts: ${dots.map((d) => `${d.value} ${unit}, ${Math.round(d.lasts_percent)} %`).join("; ")}`}
      >
        <LevelLines
          ticks={[0, 25, 50, 75, 100]}
          y={y}
          from={LEFT}
          to={width - 14}
          text={(share) => `${share} %`}
        />
        <FootFigures ticks={x.ticks(6)} x={x} y={HEIGHT - 8} text={(tick) => `${tick} ${unit}`} />
        <line
          x1={LEFT}
          x2={width - 14}
          y1={y(sure)}
          y2={y(sure)}
          stroke="var(--color-rim)"
          strokeWidth="2"
          strokeDasharray="6 4"
        />
        <path
          d={linePath(dots.map((d) => ({ x: x(d.value), y: y(d.lasts_percent) })))}
          fill="none"
          stroke="var(--color-level)"
          strokeWidth="2.4"
        />
        {dots.map((d) => (
          <circle
            key={d.value}
            cx={x(d.value)}
            cy={y(d.lasts_percent)}
            r={d.value === found ? 7 : 4}
            fill={d.value === found ? "var(--color-level)" : "var(--color-plate)"}
            stroke="var(--color-level)"
            strokeWidth="2"
          >
            <title>{`${d.value} ${unit}: ${Math.round(d.lasts_percent)} %`}</title>
          </circle>
        ))}
      </svg>
    </div>
  );
}
