import type { Period, Severity } from "../../../api/client";
import { ribbonPath } from "../../../drawing/paths";
import { useUnit } from "../../../plan/context";
import { useOpenSum } from "../../../plan/sums";
import { amountText } from "../../../quantities/units";
import { JudgedMark } from "./JudgedMark";
import { type Columns, type DrawRibbon, rateUnit, type Shown } from "./layout";

/** Opens a sum from a shape of the drawing, by pointer or by key. */
function useOpener(figure: string, day: number | null, opens: boolean) {
  const openSum = useOpenSum();
  if (!opens) return {};
  const open = (element: Element) => openSum({ figure, day }, element as unknown as HTMLElement);
  return {
    role: "button",
    tabIndex: 0,
    className: "cursor-pointer",
    onClick: (event: React.MouseEvent) => open(event.currentTarget),
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      open(event.currentTarget);
    },
  };
}

interface UseProps {
  draw: DrawRibbon;
  unitName: string;
  day: number | null;
  /** Whether its sum can be opened: a moment has none. */
  opens: boolean;
  mark: Severity | null;
  c: Columns;
  onSay: (text: string | null) => void;
}

/** What one appliance takes out of the vessel. */
export function UseRibbon({ draw, unitName, day, opens, mark, c, onSay }: UseProps) {
  const unit = useUnit();
  const opener = useOpener(`draw:${draw.key}`, day, opens);
  const middle = draw.arrives + draw.thick / 2;
  const denied = draw.unmet.ah > 0.05;
  const close = c.labelGap < 34;
  const two = c.narrow && !close;
  const text = `${draw.name}: ${amountText(draw.used, unit)} ${unitName} out${denied ? `, ${amountText(draw.unmet, unit)} denied` : ""}`;
  const room =
    c.width - c.outRight - (c.narrow ? 12 : 48) - (close && c.narrow ? 34 : 0) - (mark ? 22 : 0);
  const most = Math.max(Math.floor(room / (c.narrow ? 6.6 : 7.4)), 5);
  const name = draw.name.length > most ? `${draw.name.slice(0, most - 1)}…` : draw.name;
  return (
    <g
      {...opener}
      aria-label={opens ? `${name} ${amountText(draw.used, unit)}. ${text}. Open its sum` : text}
      onPointerEnter={() => onSay(text)}
      onFocus={() => onSay(text)}
    >
      <path
        d={ribbonPath(c.vesselRight - 4, draw.leaves, c.outRight, draw.arrives, draw.thick)}
        fill="var(--color-use)"
        fillOpacity=".78"
      />
      <text
        x={c.outRight + 8}
        y={middle + (two ? -2 : 5)}
        fontSize={c.narrow ? 12.5 : close ? 13 : 14}
      >
        <tspan fontWeight="600">{name}</tspan>{" "}
        <tspan {...(two ? { x: c.outRight + 8, dy: 14 } : { dx: 6 })}>
          {amountText(draw.used, unit)}
        </tspan>
      </text>
      {mark && <JudgedMark severity={mark} x={c.width - 19} y={middle - 9} />}
      {denied && !close && (
        <text x={c.outRight + 8} y={middle + 19} fontSize="12" fill="var(--color-danger)">
          {amountText(draw.unmet, unit)} denied
        </text>
      )}
    </g>
  );
}

interface DripProps {
  period: Period;
  shown: Shown;
  day: number | null;
  c: Columns;
  top: number;
}

/** Losses below the vessel. Heat is energy; only charge that never comes back counts in Ah. */
export function Drips({ period, shown, day, c, top }: DripProps) {
  const unit = useUnit();
  const moment = shown.kind === "moment";
  const opener = useOpener("lost", day, !moment);
  const { lost } = period;
  const heatUnit = moment ? "W" : "Wh";
  const heat =
    lost.resistance_wh + lost.lag_wh + (unit === "Wh" ? lost.coulombic.wh + lost.leaked.wh : 0);
  const drips: [string, string, number][] = [
    ["chargers", `${lost.chargers_wh.toFixed(0)} ${heatUnit}`, lost.chargers_wh],
    ["battery", `${Math.max(heat, 0).toFixed(0)} ${heatUnit}`, heat],
    ["converters", `${lost.converters_wh.toFixed(0)} ${heatUnit}`, lost.converters_wh],
  ];
  if (lost.wiring_wh > 0.5) {
    drips.push(["cables", `${lost.wiring_wh.toFixed(0)} ${heatUnit}`, lost.wiring_wh]);
  }
  if (unit === "Ah") {
    const charge = lost.coulombic.ah + lost.leaked.ah;
    const name = rateUnit(unit, shown);
    drips.push(["charge", `${charge.toFixed(1)} ${name}`, lost.coulombic.wh + lost.leaked.wh]);
  }
  const most = Math.max(...drips.map(([, , size]) => size), 1e-9);
  const left = c.narrow ? 8 : c.vesselLeft - 34 * drips.length + 96;
  const pitch = c.narrow ? (c.width - 16) / drips.length : 70;
  return (
    <g
      aria-label={`Losses: ${drips.map(([name, text]) => `${name} ${text}`).join(" ")}`}
      {...opener}
    >
      <rect
        x={left}
        y={top - 4}
        width={pitch * drips.length}
        height="66"
        fill="none"
        pointerEvents="all"
      />
      {drips.map(([name, text, size], i) => {
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
            </text>{" "}
            <text x={x} y={top + 58} fontSize="13" textAnchor="middle" fontWeight="600">
              {text}
            </text>{" "}
          </g>
        );
      })}
    </g>
  );
}
