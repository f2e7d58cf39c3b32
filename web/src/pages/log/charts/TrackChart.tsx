import { scaleLinear } from "d3-scale";
import type { LogEntry, RunReport, Track } from "../../../api/client";
import { LevelLines } from "../../../drawing/Axes";
import { linePath, type Point, ringPath } from "../../../drawing/paths";
import { useWidth } from "../../../drawing/useWidth";
import { dayName } from "../../../quantities/clock";

const HEIGHT = 230;
const FOOT = 22;
const LEFT = 30;

interface Props {
  run: RunReport;
  track: Track | null;
  floor: number;
  entries: readonly LogEntry[];
}

/** As tracked up to now and in eight skies of ten from there; the plan as a thin line beside it. */
export function TrackChart({ run, track, floor, entries }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { series } = run;
  if (!series) return null;
  const levels = series.level_percent;
  const x = scaleLinear([0, levels.length - 1], [LEFT, width - 4]);
  const y = scaleLinear([0, 100], [HEIGHT - FOOT, 6]);
  const every = Math.max(1, Math.floor(levels.length / Math.max(width, 1)));
  const planned = levels.flatMap((level, i) => (i % every === 0 ? [{ x: x(i), y: y(level) }] : []));
  const named = Math.ceil(run.days.length / Math.max(Math.floor(width / 60), 1));
  const now = track?.begun ? track.now_step : 0;
  const aside = new Set(track?.marks.filter((m) => m.state === "aside").map((m) => m.entry));

  return (
    <div ref={ref} className="min-w-0">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label="Level as tracked and as planned, with the entries"
      >
        <rect
          x={LEFT}
          width={Math.max(x(now) - LEFT, 0)}
          height={HEIGHT - FOOT}
          fill="var(--color-band)"
          fillOpacity=".5"
        />
        <LevelLines ticks={[0, 50, 100]} y={y} from={LEFT} to={width - 4} />
        {run.days.map((day, i) => (
          <g key={day.date}>
            <line
              x1={x(day.first_step)}
              x2={x(day.first_step)}
              y1={y(100)}
              y2={HEIGHT - FOOT}
              stroke="var(--color-line)"
            />
            {i % named === 0 && (
              <text x={x(day.first_step) + 4} y={HEIGHT - 6} fontSize="12" fill="var(--color-ash)">
                {dayName(day.date)}
              </text>
            )}
          </g>
        ))}
        {track && <Tracked track={track} stepMin={series.step_min} x={x} y={y} now={now} />}
        <path
          d={linePath(planned)}
          fill="none"
          stroke="var(--color-ink)"
          strokeOpacity=".55"
          strokeWidth="1.1"
          data-testid="planned-line"
        />
        <line
          x1={LEFT}
          x2={width - 4}
          y1={Math.round(y(floor))}
          y2={Math.round(y(floor))}
          stroke="var(--color-danger)"
          strokeWidth="2"
          strokeDasharray="5 4"
        />
        {entries.map((entry) => (
          <EntryMark key={entry.id} entry={entry} x={x} y={y} aside={aside.has(entry.id)} />
        ))}
        {track?.begun && (
          <g data-testid="now-line">
            <line
              x1={x(now)}
              x2={x(now)}
              y2={HEIGHT - FOOT}
              stroke="var(--color-rim)"
              strokeWidth="2"
            />
            <rect x={x(now) - 17} y={0} width="34" height="16" rx="8" fill="var(--color-rim)" />
            <text x={x(now)} y={12} textAnchor="middle" fontSize="12" fill="var(--color-on-rim)">
              now
            </text>
          </g>
        )}
      </svg>
      <p className="flex flex-wrap gap-x-4 text-sm text-ash">
        <Key fill="url(#pat-band)">tracked, then 8 of 10 tries</Key>
        <Key fill="var(--color-ink)" thin>
          the plan
        </Key>
        <span>◆ an entry; ✕ one that was not used</span>
      </p>
    </div>
  );
}

function Key({ fill, thin, children }: { fill: string; thin?: boolean; children: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <svg width="16" height="10" aria-hidden="true">
        <rect y={thin ? 4 : 0} width="16" height={thin ? 1.2 : 10} fill={fill} />
      </svg>
      {children}
    </span>
  );
}

type Scale = (value: number) => number;

function Tracked(props: { track: Track; stepMin: number; x: Scale; y: Scale; now: number }) {
  const { track, stepMin, x, y, now } = props;
  const { band } = track.rest;
  const points = (values: readonly number[]): Point[] =>
    values.map((level, i) => ({ x: x((i * band.step_min) / stepMin), y: y(Math.max(level, 0)) }));
  const middle = points(band.middle);
  const split = Math.round((now * stepMin) / band.step_min) + 1;
  return (
    <>
      <path
        d={ringPath(points(band.high), points(band.low))}
        fill="url(#pat-band)"
        data-testid="tracked-band"
      />
      <path
        d={linePath(middle.slice(0, split))}
        fill="none"
        stroke="var(--color-level)"
        strokeWidth="2.6"
      />
      <path
        d={linePath(middle.slice(Math.max(split - 1, 0)))}
        fill="none"
        stroke="var(--color-level)"
        strokeWidth="1.6"
        strokeDasharray="2 3"
      />
    </>
  );
}

function EntryMark(props: { entry: LogEntry; x: Scale; y: Scale; aside: boolean }) {
  const { entry, x, y, aside } = props;
  const at = x(entry.step);
  const { low_percent: low, mid_percent: mid, high_percent: high } = entry;
  if (low == null || mid == null || high == null) {
    return (
      <path d={`M${at},${HEIGHT - FOOT}l-4,-8h8z`} fill="var(--color-ink)" fillOpacity=".6">
        <title>{entry.text}</title>
      </path>
    );
  }
  const ink = aside ? "var(--color-danger)" : "var(--color-ink)";
  return (
    <g>
      <line
        x1={at}
        x2={at}
        y1={y(high)}
        y2={y(low)}
        stroke={ink}
        strokeOpacity=".35"
        strokeWidth="6"
        strokeLinecap="round"
      />
      {aside ? (
        <path d={`M${at - 4},${y(mid) - 4}l8,8m0,-8l-8,8`} stroke={ink} strokeWidth="2" />
      ) : (
        <path
          d={`M${at},${y(mid) - 5}l5,5l-5,5l-5,-5z`}
          fill="var(--color-plate)"
          stroke={ink}
          strokeWidth="1.7"
        />
      )}
    </g>
  );
}
