import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { clockOf, minutesOf } from "../../quantities/clock";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";
import { More } from "../../ui/More";

type Hints = Schemas["DayHints"];
type PanelDay = Schemas["PanelDay"];

const WIDE = 320;
const HIGH = 96;
const BASE = 78;
const TOP_DEG = 75;

/** The sun's way over the day, how to lay a panel that can be moved, and the drive's best hour. */
export function SunToday({ at }: { at: string }) {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  // Anew with each hour: the sun moves slowly.
  const hints = useQuery({
    queryKey: ["hints", plan.id, plan.revision, at.slice(0, 13)],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/track/hints", { params: { path: { plan_id: plan.id } } }),
      ),
  });
  const found = hints.data;
  if (!found || (found.panels.length === 0 && !found.drive)) return null;
  const { drive } = found;
  const moveDrive = (to: NonNullable<Hints["drive"]>) =>
    store.edit((old) => {
      const blocks = (old.trip.blocks ?? []).map((block) => {
        if (block.id !== to.block) return block;
        const length = minutesOf(block.end) - minutesOf(block.start);
        const end = minutesOf(to.start) + length;
        return { ...block, start: to.start, end: clockOf(end) };
      });
      return { ...old, trip: { ...old.trip, blocks } };
    }, "moved the drive to its best hour");
  return (
    <section className="card print:hidden" aria-labelledby="better">
      <h2 id="better" className="text-lg">
        What would make it better
      </h2>
      {drive && (
        <p className="mt-1 flex flex-wrap items-center gap-3">
          <span className="min-w-44 flex-1">{drive.text}</span>
          <Button className="min-h-11" onClick={() => moveDrive(drive)}>
            Move the drive
          </Button>
        </p>
      )}
      {found.panels.map((panel) => (
        <div key={panel.name} className="mt-2">
          <p>{panel.text}</p>
          {panel.turns.length > 0 && (
            <More text={`How to lay ${panel.name} today`}>
              <SunPath day={found} panel={panel} />
              <ol className="list-disc pl-5">
                {panel.turns.map((turn) => (
                  <li key={turn.start}>{turn.text}</li>
                ))}
              </ol>
              {panel.shade.length > 0 && <Shade panel={panel} />}
            </More>
          )}
        </div>
      ))}
    </section>
  );
}

function Shade({ panel }: { panel: PanelDay }) {
  const habits = useHabits();
  const hours = panel.shade.map(
    (one) =>
      `${clockText(one.start, habits)} to ${clockText(one.end, habits)} (${Math.round(one.percent)} %)`,
  );
  return <p className="text-sm text-ash">Shade takes light from {hours.join(" and ")}.</p>;
}

/** The sun's height over the hours, with shade, and the direction to face in each part. */
function SunPath({ day, panel }: { day: Hints; panel: PanelDay }) {
  const habits = useHabits();
  const x = (minute: number) => (minute / 1440) * WIDE;
  const y = (height: number) => BASE - (Math.min(height, TOP_DEG) / TOP_DEG) * (BASE - 8);
  const line = day.sun.map((mark) => `${x(mark.minute)},${y(mark.height_deg)}`).join(" ");
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="block w-full max-w-sm"
      role="img"
      aria-label={`The sun's height over ${day.day}, with the direction to face`}
    >
      <rect width={WIDE} height={BASE} fill="var(--color-day)" rx="4" />
      {panel.shade.map((one) => (
        <rect
          key={one.start}
          x={x(minutesOf(one.start))}
          width={Math.max(x(minutesOf(one.end)) - x(minutesOf(one.start)), 0)}
          height={BASE}
          fill="var(--color-night)"
          opacity={0.25 + one.percent / 200}
        />
      ))}
      <polyline points={line} fill="none" stroke="var(--color-sun-ink)" strokeWidth="2.5" />
      {panel.turns.map((turn) => {
        const from = x(minutesOf(turn.start));
        const to = x(minutesOf(turn.end) || 1440);
        return (
          <g key={turn.start}>
            <line x1={from} x2={from} y2={BASE} stroke="var(--color-ink)" strokeOpacity=".35" />
            <text x={(from + to) / 2} y={BASE - 6} textAnchor="middle" fontSize="13">
              {turn.tilt_deg > 0 ? (SHORT[turn.faces] ?? turn.faces) : "flat"}
            </text>
          </g>
        );
      })}
      {[6, 12, 18].map((hour) => (
        <text key={hour} x={x(hour * 60)} y={HIGH - 4} textAnchor="middle" fontSize="13">
          {clockText(`${String(hour).padStart(2, "0")}:00`, habits)}
        </text>
      ))}
    </svg>
  );
}

const SHORT: Record<string, string> = {
  north: "N",
  "north-east": "NE",
  east: "E",
  "south-east": "SE",
  south: "S",
  "south-west": "SW",
  west: "W",
  "north-west": "NW",
};
