import type { DayReport, RunReport } from "../../api/client";
import { useUnit } from "../../app/context";
import { amountText, percentText } from "../../quantities/units";
import { type Columns, vesselOf } from "./layout";

interface Props {
  run: RunReport;
  day: DayReport | null;
  floor: number;
  c: Columns;
  chosen: boolean;
  onChoose: () => void;
}

/** The bank as a pot: filled to its level, the floor drawn through it. */
export function Vessel({ run, day, floor, c, chosen, onChoose }: Props) {
  const unit = useUnit();
  const { bank } = run;
  const { level, says, lowest } = vesselOf(run, day);
  const left = c.vesselLeft;
  const wide = c.vesselRight - left;
  const top = c.top + 10;
  const tall = c.flow + 62;
  const y = (percent: number) => top + tall * (1 - percent / 100);
  const middle = left + wide / 2;
  const pot = `M${left},${top}H${left + wide}V${top + tall - 30}q0,30 -30,30H${left + 30}q-30,0 -30,-30Z`;
  const low = level < floor;
  // The words stand where there is most room: above the level, or between it and the floor.
  const empty = 1 - level / 100;
  const filled = (level - floor) / 100;
  const middleOf = empty > filled ? empty / 2 : empty + filled / 2;
  const wordsTop = top + tall * Math.max(middleOf - 0.06, 0.1);
  const nominal = `${amountText(bank.nominal, unit)} ${unit}`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`Battery: ${bank.name}, ${bank.capacity_ah} Ah, ${percentText(level)} ${says}. Open its sheet`}
      className="cursor-pointer"
      onClick={onChoose}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") {
          event.preventDefault();
          onChoose();
        }
      }}
    >
      <clipPath id="pot">
        <path d={pot} />
      </clipPath>
      <path d={pot} fill="var(--color-plate)" />
      <g clipPath="url(#pot)">
        <rect x={left} y={y(level)} width={wide} height={tall} fill="var(--color-level-tint)" />
        <path
          d={`M${left},${y(level)}q${wide / 8},-5 ${wide / 4},0t${wide / 4},0t${wide / 4},0t${wide / 4},0`}
          fill="none"
          stroke="var(--color-level)"
          strokeWidth="2.5"
        />
        <rect
          x={left}
          y={y(floor)}
          width={wide}
          height={tall}
          fill="url(#pat-below)"
          fillOpacity=".4"
        />
        <line
          x1={left}
          x2={left + wide}
          y1={y(floor)}
          y2={y(floor)}
          stroke="var(--color-danger)"
          strokeWidth="1.8"
          strokeDasharray="6 4"
        />
        {lowest !== null && (
          <line
            x1={left}
            x2={left + wide}
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
        stroke={chosen ? "var(--color-sun)" : "var(--color-rim)"}
        strokeWidth="4"
      />
      <rect x={left - 8} y={top - 9} width={wide + 16} height="12" rx="6" fill="var(--color-rim)" />
      <g textAnchor="middle">
        <text x={middle} y={c.top - 36} className="font-head" fontSize="15" fontWeight="700">
          {c.narrow ? bank.name : `${bank.name}, ${nominal}`}
        </text>
        <text x={middle} y={c.top - 20} fontSize="13" fill="var(--color-ash)">
          {c.narrow ? nominal : `takes up to ${bank.charge_limit_a.toFixed(0)} A`}
        </text>
        <text
          x={middle}
          y={wordsTop}
          className="font-head"
          fontSize={c.narrow ? 22 : 32}
          fontWeight="700"
          fill={low ? "var(--color-danger)" : "var(--color-ink)"}
        >
          {percentText(level)}
        </text>
        <text x={middle} y={wordsTop + 18} fontSize={c.narrow ? 11 : 13.5}>
          {says}
        </text>
        <Haloed x={middle} y={y(floor) + 18} danger>
          {c.narrow ? `floor ${floor} %` : `your floor ${floor} %`}
        </Haloed>
        {lowest !== null && Math.abs(y(lowest) - y(floor)) > 24 && (
          <Haloed x={middle} y={y(lowest) - 5}>
            lowest {percentText(lowest)}
          </Haloed>
        )}
        {!c.narrow && (
          <text x={middle} y={wordsTop + 44} fontSize="13.5">
            {amountText(bank.usable, unit)} {unit} usable of {amountText(bank.nominal, unit)}
          </text>
        )}
      </g>
    </g>
  );
}

function Haloed(props: { x: number; y: number; danger?: boolean; children: React.ReactNode }) {
  return (
    <text
      x={props.x}
      y={props.y}
      fontSize="13"
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
