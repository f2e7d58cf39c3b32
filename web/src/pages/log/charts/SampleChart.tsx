import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { useState } from "react";
import { answer, client } from "../../../api/client";
import { FootFigures, LevelLines } from "../../../drawing/Axes";
import { linePath, type Point, ringPath } from "../../../drawing/paths";
import { useWidth } from "../../../drawing/useWidth";
import { dayName } from "../../../quantities/clock";
import { clockText, type Habits } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";
import { Choice } from "../../../ui/fields/Choice";

const HEIGHT = 120;
const FOOT = 18;
const LEFT = 38;
const POINTS = 300;

type Shown = "amps" | "volts" | "percent";
const SHOWN: readonly { value: Shown; text: string }[] = [
  { value: "amps", text: "A" },
  { value: "volts", text: "V" },
  { value: "percent", text: "%" },
];
const SPANS = [
  { value: "6", text: "6 h" },
  { value: "24", text: "1 day" },
  { value: "all", text: "all" },
] as const;
type Span = (typeof SPANS)[number]["value"];
const HOUR_MS = 3_600_000;
/** Asked anew with every so many new samples: the line moves, and the server is left in peace. */
const EVERY = 10;

interface Props {
  planId: number;
  stored: number;
  /** When the newest sample was taken, UTC milliseconds. */
  newest: number;
  zone: string;
}

/** What the monitor showed: the mean as a line in the band between least and most. */
export function SampleChart({ planId, stored, newest, zone }: Props) {
  const [shown, setShown] = useState<Shown>("amps");
  const [span, setSpan] = useState<Span>("24");
  const [ref, width] = useWidth<HTMLDivElement>();
  const bunch = Math.floor(stored / EVERY);
  const view = useQuery({
    queryKey: ["samples", planId, span, bunch],
    queryFn: () => {
      const until = new Date(newest).toISOString();
      const since = new Date(newest - Number(span) * HOUR_MS).toISOString();
      const query = { points: POINTS, ...(span === "all" ? {} : { since, until }) };
      return answer(
        client.GET("/api/plans/{plan_id}/samples", {
          params: { path: { plan_id: planId }, query },
        }),
      );
    },
    placeholderData: (before) => before,
  });
  const points = (view.data?.points ?? []).flatMap((point) => {
    const spread = point[shown];
    return spread ? [{ at: Date.parse(point.at_utc), ...spread }] : [];
  });
  return (
    <div className="mt-3" ref={ref}>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <Choice label="What is drawn" value={shown} options={SHOWN} onChange={setShown} />
        <Choice label="How far back" value={span} options={SPANS} onChange={setSpan} />
        <span className="text-sm text-ash" data-testid="stored">
          {stored.toLocaleString("en-GB")} samples stored
        </span>
      </div>
      {points.length > 1 && <Plot points={points} width={width} shown={shown} zone={zone} />}
    </div>
  );
}

interface Spread {
  at: number;
  least: number;
  most: number;
  mean: number;
}

function Plot(props: { points: readonly Spread[]; width: number; shown: Shown; zone: string }) {
  const habits = useHabits();
  const { points, width, shown, zone } = props;
  const first = points[0]?.at ?? 0;
  const last = points.at(-1)?.at ?? 1;
  const low = Math.min(...points.map((point) => point.least), shown === "amps" ? 0 : 1e9);
  const high = Math.max(...points.map((point) => point.most), shown === "amps" ? 0 : -1e9);
  const x = scaleLinear([first, Math.max(last, first + 1)], [LEFT, width - 4]);
  const y = scaleLinear([low, Math.max(high, low + 0.1)], [HEIGHT - FOOT, 6]).nice(3);
  const at = (pick: (point: Spread) => number): Point[] =>
    points.map((point) => ({ x: x(point.at), y: y(pick(point)) }));
  const ticks = x.ticks(Math.max(Math.floor(width / 130), 2));
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label="What the monitor showed"
      className="mt-2"
    >
      <LevelLines ticks={y.ticks(3)} y={y} from={LEFT} to={width - 4} />
      <FootFigures
        ticks={ticks}
        x={x}
        y={HEIGHT - 3}
        anchor="start"
        text={(when) => clockIn(when, zone, habits)}
      />
      <path
        d={ringPath(
          at((point) => point.most),
          at((point) => point.least),
        )}
        fill="var(--color-level-tint)"
      />
      <path
        d={linePath(at((point) => point.mean))}
        fill="none"
        stroke="var(--color-rim)"
        strokeWidth="1.6"
      />
    </svg>
  );
}

function clockIn(when: number, zone: string, habits: Habits): string {
  const local = new Date(when).toLocaleString("sv-SE", { timeZone: zone });
  return `${dayName(local.slice(0, 10))} ${clockText(local.slice(11, 16), habits)}`;
}
