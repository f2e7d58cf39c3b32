import { useQuery } from "@tanstack/react-query";
import { type Against, answer, type BandOf, client, type TripReport } from "../../../api/client";
import { usePlanPart } from "../../../plan/context";
import { dayName } from "../../../quantities/clock";
import { clockText } from "../../../quantities/habits";
import { percentText } from "../../../quantities/units";
import { useHabits } from "../../../quantities/useHabits";
import { patternOf } from "../../../sources";
import { Button } from "../../../ui/Button";
import { Wide } from "../../../ui/Wide";

const fillOf = (kind: Against["kind"]) => (kind === "use" ? "var(--color-use)" : patternOf(kind));

/** What was planned and what happened, by day, by source and by appliance; it prints. */
export function ActualBoard() {
  const habits = useHabits();
  const plan = usePlanPart((state) => state.plan);
  const asked = useQuery({
    queryKey: ["actual", plan.id, plan.revision],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/track/report", {
          params: { path: { plan_id: plan.id } },
        }),
      ),
    placeholderData: (before) => before,
  });
  const report = asked.data;
  if (!report) return <p className="px-1 text-ash">Adding it up…</p>;
  if (report.days.length === 0) {
    return <p className="px-1 text-ash">Nothing has happened yet: log what you read and do.</p>;
  }
  const most = Math.max(...report.total.flatMap((part) => [part.planned_ah, part.actual_ah.high]));
  return (
    <section aria-label="Plan and actual" className="plate px-4 py-4 print:border-0">
      <Head report={report} />
      <div className="mt-4 grid gap-6 lg:grid-cols-[1fr_1.1fr]">
        <div>
          <h3 className="mb-1 text-lg">By source and appliance</h3>
          <p className="mb-2 text-sm text-ash">
            Ah up to {dayName(report.now.slice(0, 10))}{" "}
            {clockText(report.now.slice(11, 16), habits)}; the frame is the plan, the fill what
            happened, the whisker eight cases of ten.
          </p>
          <ul className="grid gap-1.5" data-testid="by-part">
            {report.total
              .filter((part) => part.planned_ah > 0.05 || part.actual_ah.high > 0.05)
              .map((part) => (
                <PartBar key={part.key} part={part} most={most} />
              ))}
          </ul>
        </div>
        <DaysTable report={report} />
      </div>
      <Entries report={report} />
    </section>
  );
}

function Head({ report }: { report: TripReport }) {
  return (
    <div className="flex flex-wrap items-start justify-between gap-3">
      <div>
        <h2 className="text-2xl" data-testid="report-headline">
          {report.headline}
        </h2>
        <p className="text-ash">
          {report.name}, {report.site}, from {report.start}
          {report.over ? "" : ", still under way"}
        </p>
        <h3 className="mt-3 text-lg">Next time</h3>
        <ul className="list-disc pl-5">
          {report.lessons.map((lesson) => (
            <li key={lesson}>{lesson}</li>
          ))}
        </ul>
      </div>
      <Button className="print:hidden" onClick={() => window.print()}>
        Print it
      </Button>
    </div>
  );
}

const WIDE = 200;

function PartBar({ part, most }: { part: Against; most: number }) {
  const x = (ah: number) => (WIDE * ah) / Math.max(most, 1e-9);
  const { low, middle, high } = part.actual_ah;
  return (
    <li className="grid grid-cols-[minmax(0,8.5rem)_minmax(0,1fr)_5.5rem] items-center gap-2 text-sm">
      <span>{part.name}</span>
      <svg
        viewBox={`0 0 ${WIDE} 18`}
        preserveAspectRatio="none"
        className="h-[18px] w-full"
        aria-hidden="true"
      >
        <rect y="4" width={x(middle)} height="10" fill={fillOf(part.kind)} />
        <rect
          x=".5"
          y="2"
          width={Math.max(x(part.planned_ah), 0.5)}
          height="14"
          fill="none"
          stroke="var(--color-ink)"
          vectorEffect="non-scaling-stroke"
        />
        <line
          x1={x(low)}
          x2={x(high)}
          y1="9"
          y2="9"
          stroke="var(--color-ink)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <span className="text-right tabular-nums">
        {middle.toFixed(1)} <span className="text-ash">of {part.planned_ah.toFixed(1)}</span>
      </span>
    </li>
  );
}

function DaysTable({ report }: { report: TripReport }) {
  return (
    <Wide label="By day">
      <h3 className="mb-1 text-lg">By day</h3>
      <table
        className="w-full min-w-[38rem] text-sm whitespace-nowrap tabular-nums [&_td]:pl-3 [&_th+th]:pl-3"
        data-testid="by-day"
      >
        <thead className="text-left text-ash">
          <tr>
            <th className="py-1 font-normal">day</th>
            <th className="text-right font-normal">in, planned</th>
            <th className="text-right font-normal">happened</th>
            <th className="text-right font-normal">out, planned</th>
            <th className="text-right font-normal">happened</th>
            <th className="text-right font-normal">lowest, planned</th>
            <th className="text-right font-normal">tracked</th>
          </tr>
        </thead>
        <tbody>
          {report.days.map((day) => (
            <tr key={day.date} className="border-t border-line">
              <th scope="row" className="py-1.5 text-left font-head">
                {dayName(day.date)}
                {!day.done && <span className="font-body font-normal text-ash"> so far</span>}
              </th>
              <td className="text-right text-ash">{day.planned_in_ah.toFixed(1)}</td>
              <td className="text-right">
                <Doubtful band={day.actual_in_ah} digits={1} />
              </td>
              <td className="text-right text-ash">{day.planned_out_ah.toFixed(1)}</td>
              <td className="text-right">
                <Doubtful band={day.actual_out_ah} digits={1} />
              </td>
              <td className="text-right text-ash">{percentText(day.planned_low_percent)}</td>
              <td className="text-right">
                <Doubtful band={day.actual_low_percent} digits={0} unit=" %" />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

/** A figure with half the width of its band. */
function Doubtful({ band, digits, unit = "" }: { band: BandOf; digits: number; unit?: string }) {
  const half = (band.high - band.low) / 2;
  return (
    <>
      {Math.max(band.middle, 0).toFixed(digits)}
      {unit} <span className="text-ash">± {half.toFixed(digits)}</span>
    </>
  );
}

function Entries({ report }: { report: TripReport }) {
  const habits = useHabits();
  return (
    <div className="mt-5 hidden print:block">
      <h3 className="text-lg">The log</h3>
      <ul className="text-sm">
        {report.entries.map((entry) => (
          <li key={entry.id}>
            {dayName(entry.at_local.slice(0, 10))} {clockText(entry.at_local.slice(11, 16), habits)}
            : {entry.text}
            {entry.note && ` (${entry.note})`}
          </li>
        ))}
      </ul>
    </div>
  );
}
