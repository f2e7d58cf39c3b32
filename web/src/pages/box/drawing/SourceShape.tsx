import type { Severity } from "../../../api/client";
import { ribbonPath } from "../../../drawing/paths";
import { useUnit } from "../../../plan/context";
import { amountText, type Unit } from "../../../quantities/units";
import type { PartKey } from "../parts";
import { JudgedMark } from "./JudgedMark";
import type { Columns, SourceRibbon } from "./layout";

export function partOf(source: SourceRibbon): PartKey {
  return `${source.kind}:${source.key}`;
}

interface Props {
  source: SourceRibbon;
  unitName: string;
  /** What is said beside the spill, once for all sources. */
  spilled: string;
  mark: Severity | null;
  c: Columns;
  chosen: boolean;
  onChoose: () => void;
  onSwitch: () => void;
  onSay: (text: string | null) => void;
}

const POST = 20;

/** One source: what it offers, what its bottleneck holds back, and its stream into the vessel. */
export function SourceShape(props: Props) {
  const { source, unitName, spilled, mark, c, chosen, onChoose, onSwitch, onSay } = props;
  const unit = useUnit();
  const { top, open, clippedPx, spilledPx, takenPx, name } = source;
  const sun = source.kind === "sun";
  const flowing = sun ? spilledPx + takenPx : takenPx;
  const ink = `url(#pat-${source.kind})`;
  const passTop = sun ? top + spilledPx : top + (open - takenPx) / 2;
  const limit = `${amps(source.limitA)} A`;
  const sum = sumWords(source, unit, unitName);
  // On a phone the name may reach over the bottleneck, to just before the vessel.
  const markX = c.narrow ? c.neckRight - 6 : c.neckLeft - 24;
  const title = shortened(name, mark ? markX - 6 : markX + 16);
  const line = `${amountText(source.taken, unit)} ${c.narrow ? "" : `${unitName} in, `}${heldWords(source, unit, limit, c.narrow)}`;
  const titleY = top - clippedPx - (c.narrow ? 40 : 22);
  return (
    <g>
      {spilledPx > 0 && <Spill source={source} c={c} text={spilled} />}
      <g
        role="button"
        tabIndex={0}
        aria-pressed={chosen}
        aria-label={`${title} ${line}. ${sum}. Limit ${limit}. Open its sheet; 0 switches it off`}
        className="cursor-pointer"
        onClick={onChoose}
        onPointerEnter={() => onSay(sum)}
        onFocus={() => onSay(sum)}
        onKeyDown={(event) => {
          if (event.key === "Enter" || event.key === " ") onChoose();
          else if (event.key === "0") onSwitch();
          else return;
          event.preventDefault();
        }}
      >
        <rect
          x="0"
          y={titleY - 14}
          width={c.neckRight}
          height={open + clippedPx + 60}
          fill="none"
          pointerEvents="all"
        />
        {clippedPx > 0 && (
          <path
            d={`M4,${top - clippedPx}H${c.neckLeft - 26}q22,0 24,${clippedPx}H4Z`}
            fill={`url(#pat-held-${source.kind})`}
            stroke={sun ? "var(--color-sun-ink)" : `var(--color-${source.kind})`}
            strokeWidth=".8"
          />
        )}
        {flowing > 0 && (
          <rect
            x="4"
            y={sun ? top : passTop}
            width={c.neckLeft - 4}
            height={sun ? open : takenPx}
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
        {[top - POST - 2, top + open + 2].map((y) => (
          <rect
            key={y}
            x={c.neckLeft}
            y={y}
            width={c.neckRight - c.neckLeft}
            height={POST}
            rx="6"
            fill={chosen ? "var(--color-sun)" : "var(--color-rim)"}
            stroke="var(--color-rim)"
            strokeWidth="2"
          />
        ))}
        {mark && <JudgedMark severity={mark} x={markX} y={titleY - 13} />}
        <text x="4" y={titleY} className="font-head" fontSize="15" fontWeight="700">
          {title}
        </text>{" "}
        <text x="4" y={top - clippedPx - (c.narrow ? 26 : 7)} fontSize="13" fill="var(--color-ash)">
          {line}
        </text>
      </g>
    </g>
  );
}

/** The sum behind a ribbon's width. */
function sumWords(source: SourceRibbon, unit: Unit, unitName: string): string {
  const parts: string[] = [];
  if (source.barred.ah > 0.05) parts.push(`${amountText(source.barred, unit)} kept away`);
  if (source.clipped.ah > 0.05) parts.push(`${amountText(source.clipped, unit)} held back`);
  if (source.spilled.ah > 0.05) parts.push(`${amountText(source.spilled, unit)} not taken, full`);
  const less = parts.map((part) => ` − ${part}`).join("");
  return `${source.name}: could give ${amountText(source.offered, unit)}${less} = ${amountText(source.taken, unit)} ${unitName} taken`;
}

/** A name that fits: letters are about seven pixels wide in this face and size. */
function shortened(name: string, room: number): string {
  const most = Math.max(Math.floor(room / 7.6), 6);
  return name.length <= most ? name : `${name.slice(0, most - 1).trimEnd()}…`;
}

/** What is held back before the bottleneck, in a word or two; else the limit alone. */
function heldWords(source: SourceRibbon, unit: Unit, limit: string, narrow: boolean): string {
  if (narrow) return `· ${limit}`;
  if (source.barred.ah > source.clipped.ah && source.barred.ah > 0.05) {
    return `${amountText(source.barred, unit)} kept away`;
  }
  if (source.clipped.ah > 0.05)
    return `${amountText(source.clipped, unit)} held back, limit ${limit}`;
  return `limit ${limit}`;
}

function amps(limit: number): string {
  return limit < 10 ? String(Math.round(10 * limit) / 10) : limit.toFixed(0);
}

/** What found the battery full: up and over the rim. */
function Spill({ source, c, text }: { source: SourceRibbon; c: Columns; text: string }) {
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
          {text}
        </text>
      )}
    </g>
  );
}
