import { memo } from "react";
import type { RunReport } from "../api/client";
import { areaPath, linePath, type Point, ringPath } from "../drawing/paths";
import { dayName } from "../quantities/clock";
import { clockText } from "../quantities/habits";
import { percentText } from "../quantities/units";
import { useHabits } from "../quantities/useHabits";
import { bandPoints, type CurveScale, freePlace, levelPoints, nights } from "./scale";

const LABEL_HIGH = 18;
const PX_A_LETTER = 7.2;

interface Props {
  run: RunReport;
  scale: CurveScale;
  floor: number;
  /** Step of now on a trip that is under way. */
  now?: number | null;
}

/**
 * The level as one curve with its band, on day and night as ground: the picture of a trip on every
 * page. The words of its scale stand left of it, in the room of `GUTTER`.
 */
export const LevelCurve = memo(function LevelCurve(props: Props) {
  const { run, scale, floor, now = null } = props;
  const { width, height, x, y } = scale;
  const levels = run.series?.level_percent ?? [];
  const points = levelPoints(scale, levels);
  const band = run.odds && bandPoints(scale, run.odds.band);
  // Of a trip under way the likeliest course leads, and the plan's own is thin.
  const main = band && now !== null ? band.middle : points;
  return (
    <>
      <rect width={width} height={height} fill="var(--color-day)" />
      {nights(scale).map((dark) => (
        <rect
          key={dark.from}
          x={dark.from}
          width={dark.to - dark.from}
          height={height}
          fill="var(--color-night)"
        />
      ))}
      <line x2={width} y1={y(50)} y2={y(50)} stroke="var(--color-ink)" strokeOpacity=".14" />
      <path d={areaPath(main, height)} fill="var(--color-level-tint)" fillOpacity=".3" />
      {band && (
        <path
          d={ringPath(band.high, band.low)}
          fill="var(--color-level)"
          fillOpacity=".28"
          data-testid="band"
        />
      )}
      {now !== null && (
        <path
          d={linePath(points)}
          fill="none"
          stroke="var(--color-ink)"
          strokeOpacity=".5"
          strokeWidth="1"
          strokeDasharray="3 3"
        />
      )}
      <path
        d={linePath(main)}
        fill="none"
        stroke="var(--color-level)"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      <ReserveLine y={y(floor)} width={width} />
      {now !== null && now > scale.from && now < scale.to && <NowFlag x={x(now)} height={height} />}
      {now === null && (
        <Lowest run={run} scale={scale} lines={[...points, ...levelLine(scale, floor)]} />
      )}
      <ScaleWords scale={scale} floor={floor} />
    </>
  );
});

/** The reserve: a broken red line in every picture of the level. */
export function ReserveLine({ y, width }: { y: number; width: number }) {
  return (
    <line
      x2={width}
      y1={y}
      y2={y}
      stroke="var(--color-danger)"
      strokeWidth="1.6"
      strokeDasharray="6 4"
    />
  );
}

/** A level line as points, a few pixels apart. */
function levelLine({ width, y }: CurveScale, level: number): Point[] {
  return Array.from({ length: Math.ceil(width / 6) }, (_, i) => ({ x: 6 * i, y: y(level) }));
}

/** The words of the scale, left of the plot: none of them lies on a line. */
function ScaleWords({ scale: { y }, floor }: { scale: CurveScale; floor: number }) {
  // What would stand on the reserve's own word gives way to it.
  const ticks = [100, 50, 0].filter((level) => Math.abs(y(level) - y(floor)) > 13);
  return (
    <>
      {ticks.map((level) => (
        <text
          key={level}
          x={-8}
          y={y(level) + (level === 100 ? 10 : level === 0 ? 0 : 4)}
          textAnchor="end"
          fontSize="13"
          fill="var(--color-ash)"
        >
          {level} %
        </text>
      ))}
      <text
        x={-8}
        y={y(floor) + 4}
        textAnchor="end"
        fontSize="13"
        fontWeight="600"
        fill="var(--color-danger)"
      >
        {Math.round(floor)} %
      </text>
    </>
  );
}

function NowFlag({ x, height }: { x: number; height: number }) {
  return (
    <g data-testid="now-mark">
      <line x1={x} x2={x} y1={-6} y2={height} stroke="var(--color-rim)" strokeWidth="2" />
      <path d={`M${x},-6h10v7h-10z`} fill="var(--color-rim)" />
    </g>
  );
}

/** One ring at the lowest point, with its figure where no line runs. */
function Lowest(props: {
  run: RunReport;
  scale: CurveScale;
  /** Points of the lines that its figure keeps clear of. */
  lines: readonly Point[];
}) {
  const { run, scale, lines } = props;
  const habits = useHabits();
  const { verdict, days } = run;
  const day = days[verdict.lowest_day];
  if (!day || !scale.days.includes(day)) return null;
  const [hours = 0, minutes = 0] = verdict.lowest_at.slice(11, 16).split(":").map(Number);
  const step = day.first_step + (60 * hours + minutes) / scale.stepMin;
  const at = { x: scale.x(step), y: scale.y(verdict.lowest_percent) };
  const text = `lowest: ${percentText(verdict.lowest_percent)}, ${dayName(day.date)} ${clockText(verdict.lowest_at.slice(11, 16), habits)}`;
  const box = freePlace(at, text.length * PX_A_LETTER, LABEL_HIGH, lines, scale);
  return (
    <g data-testid="lowest-point">
      <circle
        cx={at.x}
        cy={at.y}
        r="6"
        fill="var(--color-plate)"
        stroke="var(--color-ink)"
        strokeWidth="2.5"
      />
      <text
        x={box.x}
        y={box.y + 14}
        fontSize="14"
        fontWeight="700"
        fill="var(--color-ink)"
        stroke="var(--color-plate)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {text}
      </text>
    </g>
  );
}
