import type { DayReport, Period, RunReport } from "../../api/client";
import { useUnit } from "../../app/context";
import { ribbonPath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { amountText, type Unit } from "../../quantities/units";
import { type Columns, columns, type DrawRibbon, layRibbons, type SourceRibbon } from "./layout";
import type { PartKey } from "./parts";
import { Vessel } from "./Vessel";

interface Props {
  run: RunReport;
  period: Period;
  day: DayReport | null;
  floor: number;
  chosen: PartKey;
  onChoose: (part: PartKey) => void;
}

const INK = { sun: "sun", vehicle: "vehicle", mains: "mains" } as const;

/** Ribbons and necks: each stream as wide as its charge, each neck as open as its limit. */
export function RibbonDrawing({ run, period, day, floor, chosen, onChoose }: Props) {
  const unit = useUnit();
  const [ref, width] = useWidth<HTMLDivElement>();
  const c = columns(width, period.draws.length);
  const { sources, draws, bottom } = layRibbons(period, unit, c);
  const spilling = sources.filter((source) => source.spilledPx > 0);
  const over = spilling.reduce(
    (sum, { spilled }) => ({ ah: sum.ah + spilled.ah, wh: sum.wh + spilled.wh }),
    { ah: 0, wh: 0 },
  );
  const spillWords = `${amountText(over, unit)} ${unit} over the rim: full`;
  const dripsTop = Math.max(vesselBottom(c), c.narrow ? bottom : 0) + 12;
  return (
    <div ref={ref} className="min-w-0">
      {width > 0 && (
        <svg
          width={width}
          height={Math.max(c.height, dripsTop + 64)}
          className="block"
          role="group"
          aria-label="Where the charge comes from and goes"
        >
          {sources.map((source) => (
            <Source
              key={source.key}
              source={source}
              spilled={source === spilling[0] ? spillWords : ""}
              c={c}
              chosen={chosen === partOf(source)}
              onChoose={() => onChoose(partOf(source))}
            />
          ))}
          {draws.map((draw) => (
            <Draw key={draw.key} draw={draw} c={c} />
          ))}
          <Vessel
            run={run}
            day={day}
            floor={floor}
            c={c}
            chosen={chosen === "battery"}
            onChoose={() => onChoose("battery")}
          />
          <Drips period={period} c={c} top={dripsTop} />
        </svg>
      )}
    </div>
  );
}

function partOf(source: SourceRibbon): PartKey {
  return `${source.kind}:${source.key}`;
}

interface SourceProps {
  source: SourceRibbon;
  /** What is said beside the spill, once for all sources. */
  spilled: string;
  c: Columns;
  chosen: boolean;
  onChoose: () => void;
}

function Source({ source, spilled, c, chosen, onChoose }: SourceProps) {
  const unit = useUnit();
  const { top, open, clippedPx, spilledPx, takenPx } = source;
  const flowing = source.kind === "sun" ? spilledPx + takenPx : takenPx;
  const ink = `url(#pat-${INK[source.kind]})`;
  const passTop = source.kind === "sun" ? top + spilledPx : top + (open - takenPx) / 2;
  const { name } = source;
  const limit = `${amps(source.limitA)} A`;
  const barred = source.barred.ah > 0.05 ? `kept away ${amountText(source.barred, unit)}, ` : "";
  const sum = `${name}: offered ${amountText(source.offered, unit)} ${unit}, ${barred}held back ${amountText(source.clipped, unit)}, not taken ${amountText(source.spilled, unit)}, taken ${amountText(source.taken, unit)}`;
  const post = 20;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${sum}. Limit ${limit}. Open its sheet`}
      className="cursor-pointer"
      onClick={onChoose}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") {
          event.preventDefault();
          onChoose();
        }
      }}
    >
      <title>{sum}</title>
      {clippedPx > 0 && (
        <path
          d={`M4,${top - clippedPx}H${c.neckLeft - 26}q22,0 24,${clippedPx}H4Z`}
          fill={`url(#pat-held-${source.kind})`}
          stroke={source.kind === "sun" ? "var(--color-sun-ink)" : `var(--color-${source.kind})`}
          strokeWidth=".8"
        />
      )}
      {flowing > 0 && (
        <rect
          x="4"
          y={source.kind === "sun" ? top : passTop}
          width={c.neckLeft - 4}
          height={source.kind === "sun" ? open : takenPx}
          fill={ink}
        />
      )}
      {takenPx > 0 && (
        <>
          <rect
            x={c.neckLeft}
            y={passTop}
            width={c.neckRight - c.neckLeft}
            height={takenPx}
            fill={ink}
          />
          <path
            d={ribbonPath(c.neckRight, passTop, c.vesselLeft + 4, source.entry, takenPx)}
            fill={ink}
          />
        </>
      )}
      {spilledPx > 0 && <Spill source={source} c={c} says={spilled} />}
      {[top - post - 2, top + open + 2].map((y) => (
        <rect
          key={y}
          x={c.neckLeft}
          y={y}
          width={c.neckRight - c.neckLeft}
          height={post}
          rx="6"
          fill={chosen ? "var(--color-sun)" : "var(--color-rim)"}
          stroke="var(--color-rim)"
          strokeWidth="2"
        />
      ))}
      <text
        x="4"
        y={top - clippedPx - (c.narrow ? 40 : 22)}
        className="font-head"
        fontSize="15"
        fontWeight="700"
      >
        {c.narrow ? name.split(" ")[0] : name}
      </text>
      <text x="4" y={top - clippedPx - (c.narrow ? 26 : 7)} fontSize="13" fill="var(--color-ash)">
        {amountText(source.taken, unit)} {c.narrow ? "" : `${unit} in, `}
        {heldWords(source, unit, limit, c.narrow)}
      </text>
    </g>
  );
}

/** What is held back before the neck, in a word or two; else the limit alone. */
function heldWords(source: SourceRibbon, unit: Unit, limit: string, narrow: boolean): string {
  if (narrow) return `· ${limit}`;
  if (source.barred.ah > source.clipped.ah && source.barred.ah > 0.05) {
    return `${amountText(source.barred, unit)} kept away`;
  }
  if (source.clipped.ah > 0.05) return `${amountText(source.clipped, unit)} clipped at ${limit}`;
  return `limit ${limit}`;
}

function amps(limit: number): string {
  return limit < 10 ? String(Math.round(10 * limit) / 10) : limit.toFixed(0);
}

/** What found the battery full: up and over the rim. */
function Spill({ source, c, says }: { source: SourceRibbon; c: Columns; says: string }) {
  const { spilledPx, top } = source;
  const x = c.vesselLeft - 16;
  const rim = c.top - 4;
  const thick = Math.min(spilledPx, 26);
  return (
    <g>
      <path
        d={ribbonPath(c.neckRight, top, x, rim - thick - 8, thick)}
        fill="url(#pat-held-sun)"
        stroke="var(--color-sun-ink)"
        strokeWidth=".7"
      />
      <rect
        x={c.neckLeft}
        y={top}
        width={c.neckRight - c.neckLeft}
        height={spilledPx}
        fill="url(#pat-held-sun)"
      />
      {[0, 1, 2].map((i) => (
        <path
          key={i}
          transform={`translate(${x + 5 + i * 6},${rim - thick + i * 9}) scale(${1 - i * 0.2})`}
          d="M0,0c4,6 4,10 0,11c-4,-1 -4,-5 0,-11z"
          fill="var(--color-sun)"
          stroke="var(--color-sun-ink)"
        />
      ))}
      {!c.narrow && (
        <text
          x={x - 4}
          y={rim - thick - 14}
          fontSize="13"
          textAnchor="end"
          fill="var(--color-sun-ink)"
        >
          {says}
        </text>
      )}
    </g>
  );
}

function Draw({ draw, c }: { draw: DrawRibbon; c: Columns }) {
  const unit = useUnit();
  const middle = draw.arrives + draw.thick / 2;
  const denied = draw.unmet.ah > 0.05;
  return (
    <g>
      <title>{`${draw.name}: ${amountText(draw.used, unit)} ${unit} out`}</title>
      <path
        d={ribbonPath(c.vesselRight - 4, draw.leaves, c.outRight, draw.arrives, draw.thick)}
        fill="var(--color-use)"
        fillOpacity=".78"
      />
      <text x={c.outRight + 8} y={middle + (c.narrow ? -2 : 5)} fontSize={c.narrow ? 12.5 : 14}>
        <tspan fontWeight="600">{c.narrow ? draw.name.slice(0, 14) : draw.name}</tspan>
        <tspan {...(c.narrow ? { x: c.outRight + 8, dy: 14 } : { dx: 6 })}>
          {amountText(draw.used, unit)}
        </tspan>
      </text>
      {denied && (
        <text x={c.outRight + 8} y={middle + 19} fontSize="12" fill="var(--color-danger)">
          {amountText(draw.unmet, unit)} denied
        </text>
      )}
    </g>
  );
}

/** Losses below the vessel. Heat is energy; only charge that never comes back counts in Ah. */
function Drips({ period, c, top }: { period: Period; c: Columns; top: number }) {
  const unit = useUnit();
  const { lost } = period;
  const heat =
    lost.resistance_wh + lost.lag_wh + (unit === "Wh" ? lost.coulombic.wh + lost.leaked.wh : 0);
  const drips: [string, string, number][] = [
    ["chargers", `${lost.chargers_wh.toFixed(0)} Wh`, lost.chargers_wh],
    ["battery", `${Math.max(heat, 0).toFixed(0)} Wh`, heat],
    ["converters", `${lost.converters_wh.toFixed(0)} Wh`, lost.converters_wh],
  ];
  if (lost.wiring_wh > 0.5) {
    drips.push(["cables", `${lost.wiring_wh.toFixed(0)} Wh`, lost.wiring_wh]);
  }
  if (unit === "Ah") {
    const charge = lost.coulombic.ah + lost.leaked.ah;
    drips.push(["charge", `${charge.toFixed(1)} Ah`, lost.coulombic.wh + lost.leaked.wh]);
  }
  const most = Math.max(...drips.map(([, , size]) => size), 1e-9);
  const left = c.narrow ? 8 : c.vesselLeft - 34 * drips.length + 96;
  const pitch = c.narrow ? (c.width - 16) / drips.length : 70;
  return (
    <g aria-label="Losses">
      {drips.map(([name, says, size], i) => {
        const scale = 0.5 + 0.9 * Math.sqrt(Math.max(size, 0) / most);
        const x = left + pitch * (i + 0.5);
        return (
          <g key={name}>
            <path
              transform={`translate(${x},${top}) scale(${scale})`}
              d="M0,0c6,9 6,16 0,17c-6,-1 -6,-8 0,-17z"
              fill="var(--color-drip)"
            />
            <text x={x} y={top + 42} fontSize="13" textAnchor="middle" fill="var(--color-ash)">
              {name}
            </text>
            <text x={x} y={top + 58} fontSize="13" textAnchor="middle" fontWeight="600">
              {says}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function vesselBottom(c: Columns): number {
  return c.top + c.flow + 78;
}
