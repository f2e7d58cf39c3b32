import type { DayReport, Period, RunReport } from "../../api/client";
import { useUnit } from "../../app/context";
import { ribbonPath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { amountText } from "../../quantities/units";
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
const SOURCE_NAMES = { sun: "", vehicle: "Alternator", mains: "Hook-up" } as const;

/** Ribbons and necks: each stream as wide as its charge, each neck as open as its limit. */
export function RibbonDrawing({ run, period, day, floor, chosen, onChoose }: Props) {
  const unit = useUnit();
  const [ref, width] = useWidth<HTMLDivElement>();
  const c = columns(width, period.draws.length);
  const { sources, draws, bottom } = layRibbons(period, unit, c);
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
  if (source.kind === "sun") return `sun:${source.key}`;
  return source.kind === "vehicle" ? "dcdc" : "mains";
}

interface SourceProps {
  source: SourceRibbon;
  c: Columns;
  chosen: boolean;
  onChoose: () => void;
}

function Source({ source, c, chosen, onChoose }: SourceProps) {
  const unit = useUnit();
  const { top, open, clippedPx, spilledPx, takenPx } = source;
  const flowing = source.kind === "sun" ? spilledPx + takenPx : takenPx;
  const ink = `url(#pat-${INK[source.kind]})`;
  const passTop = source.kind === "sun" ? top + spilledPx : top + (open - takenPx) / 2;
  const name = SOURCE_NAMES[source.kind] || source.name;
  const limit = `${source.limitA} A`;
  const sum = `${name}: offered ${amountText(source.offered, unit)} ${unit}, clipped ${amountText(source.clipped, unit)}, not taken ${amountText(source.spilled, unit)}, taken ${amountText(source.taken, unit)}`;
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
          fill="url(#pat-clipped)"
          stroke="var(--color-sun-ink)"
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
      {spilledPx > 0 && <Spill source={source} c={c} />}
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
        {source.clipped.ah > 0.05 && !c.narrow
          ? `${amountText(source.clipped, unit)} clipped at ${limit}`
          : `${c.narrow ? "· " : "limit "}${limit}`}
      </text>
    </g>
  );
}

/** What found the battery full: up and over the rim. */
function Spill({ source, c }: { source: SourceRibbon; c: Columns }) {
  const unit = useUnit();
  const { spilledPx, top } = source;
  const x = c.vesselLeft - 16;
  const rim = c.top - 4;
  const thick = Math.min(spilledPx, 26);
  return (
    <g>
      <path
        d={ribbonPath(c.neckRight, top, x, rim - thick - 8, thick)}
        fill="url(#pat-clipped)"
        stroke="var(--color-sun-ink)"
        strokeWidth=".7"
      />
      <rect
        x={c.neckLeft}
        y={top}
        width={c.neckRight - c.neckLeft}
        height={spilledPx}
        fill="url(#pat-clipped)"
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
          {amountText(source.spilled, unit)} {unit} over the rim: full
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
  const heat = lost.resistance_wh + lost.lag_wh + (unit === "Wh" ? lost.coulombic.wh : 0);
  const drips: [string, string, number][] = [
    ["chargers", `${lost.chargers_wh.toFixed(0)} Wh`, lost.chargers_wh],
    ["battery", `${Math.max(heat, 0).toFixed(0)} Wh`, heat],
    ["converters", `${lost.converters_wh.toFixed(0)} Wh`, lost.converters_wh],
  ];
  if (unit === "Ah") {
    drips.push(["charge", `${lost.coulombic.ah.toFixed(1)} Ah`, lost.coulombic.wh]);
  }
  const most = Math.max(...drips.map(([, , size]) => size), 1e-9);
  const left = c.narrow ? 8 : c.vesselLeft - 40;
  const pitch = c.narrow ? (c.width - 16) / drips.length : 78;
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
              fill="#a59b8a"
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
