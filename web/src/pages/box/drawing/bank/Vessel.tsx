import type { RunReport, Severity } from "../../../../api/client";
import { useUnit } from "../../../../plan/context";
import { amountText, percentText } from "../../../../quantities/units";
import type { PartKey } from "../../parts";
import { JudgedMark } from "../JudgedMark";
import { type Columns, type Shown, vesselOf } from "../layout";

interface Props {
  run: RunReport;
  shown: Shown;
  floor: number;
  c: Columns;
  mark: Severity | null;
  chosen: PartKey;
  onChoose: (part: PartKey) => void;
}

/** The share of the pot's width that a second bank's chamber takes. */
const SECOND_SHARE = 0.3;

/** The bank as a pot: filled to its level, the floor drawn through it; a second bank beside. */
export function Vessel({ run, shown, floor, c, mark, chosen, onChoose }: Props) {
  const unit = useUnit();
  const { bank } = run;
  const { level, text, lowest, second } = vesselOf(run, shown);
  const left = c.vesselLeft;
  const wide = c.vesselRight - left;
  const own = second === null ? wide : wide * (1 - SECOND_SHARE);
  const top = c.top + 10;
  const tall = c.flow + 62;
  const y = (percent: number) => top + tall * (1 - percent / 100);
  const middle = left + own / 2;
  const pot = `M${left},${top}H${left + wide}V${top + tall - 30}q0,30 -30,30H${left + 30}q-30,0 -30,-30Z`;
  const low = level < floor;
  // The words stand where there is most room: above the level, or between it and the floor.
  const empty = 1 - level / 100;
  const filled = (level - floor) / 100;
  const middleOf = empty > filled ? empty / 2 : empty + filled / 2;
  const wordsTop = top + tall * Math.max(middleOf - 0.06, 0.1);
  const nominal = `${amountText(bank.nominal, unit)} ${unit}`;
  const wave = (at: number, from: number, width: number) =>
    `M${from},${y(at)}q${width / 8},-5 ${width / 4},0t${width / 4},0t${width / 4},0t${width / 4},0`;
  const halves = c.narrow && second !== null;
  const floorWords = halves
    ? `${floor} %`
    : c.narrow || second !== null
      ? `reserve ${floor} %`
      : `your reserve ${floor} %`;
  const lowestShown = lowest !== null && Math.abs(y(lowest) - y(floor)) > 24;
  // What stands on the pot, in the order in which it stands there: it is the pot's name.
  const seen = [
    c.narrow ? (bank.name.split(" ")[0] ?? "") : `${bank.name}, ${nominal}`,
    c.narrow ? nominal : `takes up to ${bank.charge_limit_a.toFixed(0)} A`,
    percentText(level),
    ...(halves ? [] : [text]),
    floorWords,
    ...(lowestShown ? [`lowest ${percentText(lowest)}`] : []),
    ...(!c.narrow && second === null
      ? [`${amountText(bank.usable, unit)} ${unit} usable of ${amountText(bank.nominal, unit)}`]
      : []),
  ];
  return (
    <g>
      <Part
        text={`${seen.join(" ")}. Battery`}
        chosen={chosen === "battery"}
        onChoose={() => onChoose("battery")}
      >
        <clipPath id="pot">
          <path d={pot} />
        </clipPath>
        <path d={pot} fill="var(--color-plate)" />
        <g clipPath="url(#pot)">
          <rect x={left} y={y(level)} width={own} height={tall} fill="var(--color-level-tint)" />
          <path
            d={wave(level, left, own)}
            fill="none"
            stroke="var(--color-level)"
            strokeWidth="2.5"
          />
          <rect
            x={left}
            y={y(floor)}
            width={own}
            height={tall}
            fill="url(#pat-below)"
            fillOpacity=".4"
          />
          <line
            x1={left}
            x2={left + own}
            y1={y(floor)}
            y2={y(floor)}
            stroke="var(--color-danger)"
            strokeWidth="1.8"
            strokeDasharray="6 4"
          />
          {lowest !== null && (
            <line
              x1={left}
              x2={left + own}
              y1={y(lowest)}
              y2={y(lowest)}
              stroke="var(--color-level)"
              strokeWidth="1.6"
              strokeDasharray="2 3"
            />
          )}
        </g>
        <path
          d={pot}
          fill="none"
          stroke={chosen === "battery" ? "var(--color-sun)" : "var(--color-rim)"}
          strokeWidth="4"
        />
        <rect
          x={left - 8}
          y={top - 9}
          width={wide + 16}
          height="12"
          rx="6"
          fill="var(--color-rim)"
        />
        <g textAnchor="middle">
          <text
            x={left + wide / 2}
            y={c.top - 36}
            className="font-head"
            fontSize="15"
            fontWeight="700"
          >
            {c.narrow ? bank.name.split(" ")[0] : `${bank.name}, ${nominal}`}
          </text>{" "}
          <text x={left + wide / 2} y={c.top - 20} fontSize="13" fill="var(--color-ash)">
            {c.narrow ? nominal : `takes up to ${bank.charge_limit_a.toFixed(0)} A`}
          </text>{" "}
          <text
            x={middle}
            y={wordsTop}
            className="font-head"
            fontSize={c.narrow ? (second === null ? 22 : 15) : 32}
            fontWeight="700"
            fill={low ? "var(--color-danger)" : "var(--color-ink)"}
          >
            {percentText(level)}
          </text>{" "}
          <text x={middle} y={wordsTop + 18} fontSize={c.narrow ? 11 : 13.5}>
            {halves ? "" : text}
          </text>{" "}
          <Haloed x={middle} y={y(floor) + 18} danger small={halves}>
            {floorWords}
          </Haloed>{" "}
          {lowestShown && (
            <Haloed x={middle} y={y(lowest) - 5}>
              lowest {percentText(lowest)}
            </Haloed>
          )}{" "}
          {!c.narrow && second === null && (
            <text x={middle} y={wordsTop + 44} fontSize="13.5">
              {amountText(bank.usable, unit)} {unit} usable of {amountText(bank.nominal, unit)}
            </text>
          )}
        </g>
        {mark && mark !== "note" && <JudgedMark severity={mark} x={left + 8} y={top + 12} />}
      </Part>
      {second !== null && (
        <Part
          text={`${percentText(second)} second bank ${text}`}
          chosen={chosen === "second"}
          onChoose={() => onChoose("second")}
        >
          <g clipPath="url(#pot)">
            <rect
              x={left + own}
              y={top}
              width={wide - own}
              height={tall}
              fill={chosen === "second" ? "var(--color-day)" : "var(--color-plate)"}
            />
            <rect
              x={left + own}
              y={y(second)}
              width={wide - own}
              height={tall}
              fill="var(--color-level-tint)"
            />
            <path
              d={wave(second, left + own, wide - own)}
              fill="none"
              stroke="var(--color-level)"
              strokeWidth="2.5"
            />
          </g>
          <line
            x1={left + own}
            x2={left + own}
            y1={top}
            y2={top + tall}
            stroke="var(--color-rim)"
            strokeWidth="3"
          />
          <g textAnchor="middle">
            <text
              x={left + own + (wide - own) / 2}
              y={y(second) + 26}
              fontSize={c.narrow ? 12 : 15}
              fontWeight="700"
            >
              {percentText(second)}
            </text>{" "}
            <text
              x={left + own + (wide - own) / 2}
              y={y(second) + 42}
              fontSize={c.narrow ? 10.5 : 12}
            >
              second
            </text>
          </g>
        </Part>
      )}
    </g>
  );
}

interface PartProps {
  text: string;
  chosen: boolean;
  onChoose: () => void;
  children: React.ReactNode;
}

function Part({ text, chosen, onChoose, children }: PartProps) {
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${text}. Open its sheet`}
      className="cursor-pointer"
      onClick={onChoose}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        onChoose();
      }}
    >
      {children}
    </g>
  );
}

function Haloed(props: {
  x: number;
  y: number;
  danger?: boolean;
  small?: boolean;
  children: React.ReactNode;
}) {
  return (
    <text
      x={props.x}
      y={props.y}
      fontSize={props.small ? 11 : 13}
      fontWeight="600"
      fill={props.danger ? "var(--color-danger)" : "var(--color-level)"}
      stroke="var(--color-plate)"
      strokeWidth="4"
      paintOrder="stroke"
    >
      {props.children}
    </text>
  );
}
