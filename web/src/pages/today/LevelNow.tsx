import type { Schemas } from "../../api/client";
import { ageWords } from "../../away/keptDays";
import { ReserveLine } from "../../curve/LevelCurve";
import { areaPath, linePath, ringPath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { percentText } from "../../quantities/units";

const HIGH = 66;

type Day = Schemas["TodayReport"];
interface Props {
  day: Day;
  floor: number;
  /** What the level is called: it is of now unless it is old. */
  levelIs: string;
}

/** The level first of all, what it rests on, and how it goes to the next dawn. */
export function LevelNow({ day, floor, levelIs }: Props) {
  const { level, read } = day;
  return (
    <section aria-label="The level" data-figures>
      <div className="flex items-end gap-x-3">
        <strong
          className="font-head shrink-0 text-[62px] leading-[0.95] font-bold whitespace-nowrap"
          data-testid="level-now"
        >
          {percentText(level.middle)}
        </strong>
        <p className="pb-0.5 leading-snug text-ash">
          {Math.round(Math.max(level.low, 0))} to {Math.round(level.high)}, {levelIs}
          <span className="block" data-testid="read">
            {read
              ? `${ageWords(read.at, Date.parse(day.now))}: ${read.text}`
              : "by the plan, nothing was read yet"}
          </span>
        </p>
      </div>
      <NightCurve day={day} floor={floor} />
    </section>
  );
}

/** The band from now to the next dawn over the reserve, its two moments named below it. */
function NightCurve({ day, floor }: { day: Day; floor: number }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const levels = day.course?.level ?? [];
  const x = (i: number) => (i / Math.max(levels.length - 1, 1)) * width;
  const y = (level: number) => HIGH - (Math.min(Math.max(level, 0), 100) / 100) * HIGH;
  const line = (of: "low" | "middle" | "high") =>
    levels.map((band, i) => ({ x: x(i), y: y(band[of]) }));
  const from = Date.parse(day.course?.begins ?? day.now);
  const long = (day.course?.step_min ?? 1) * 60_000 * Math.max(levels.length - 1, 1);
  const share = (at: string) => (Date.parse(at) - from) / long;
  const evening = day.expected.find((one) => one.name !== "at dawn");
  const told = (one: Day["expected"][number] | undefined) =>
    one ? `${one.name} ${percentText(one.level.middle)}` : "";
  return (
    <div ref={ref} className="mt-1.5 min-w-0">
      {levels.length > 1 && (
        <svg
          width={width}
          height={HIGH}
          className="block rounded-md"
          role="img"
          aria-label={`From now: ${day.expected.map(told).join(", ")}; your reserve is ${Math.round(floor)} %`}
        >
          <rect width={width} height={HIGH} fill="var(--color-band)" />
          <path
            d={areaPath(line("middle"), HIGH)}
            fill="var(--color-level-tint)"
            fillOpacity=".5"
          />
          <path
            d={ringPath(line("high"), line("low"))}
            fill="var(--color-level)"
            fillOpacity=".3"
          />
          <path
            d={linePath(line("middle"))}
            fill="none"
            stroke="var(--color-level)"
            strokeWidth="3"
          />
          {evening && (
            <line
              x1={share(evening.at) * width}
              x2={share(evening.at) * width}
              y2={HIGH}
              stroke="var(--color-ink)"
              strokeOpacity=".25"
            />
          )}
          <ReserveLine y={y(floor)} width={width} />
        </svg>
      )}
      <p className="flex justify-between gap-3 text-[13px] text-ash" data-testid="expected">
        <span>now</span>
        {day.expected.map((one) => (
          <span key={one.name}>{told(one)}</span>
        ))}
      </p>
    </div>
  );
}
