import { useQuery, useQueryClient } from "@tanstack/react-query";
import { scaleLinear, scaleTime } from "d3-scale";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "../../../api/client";
import { LevelLines } from "../../../drawing/Axes";
import { spanText } from "../../../quantities/units";
import { Button } from "../../../ui/Button";

type Life = Schemas["BoxLife"];

/** Trips, nights, cycles, and the capacity over the seasons. */
export function BoxLife({ boxId }: { boxId: number }) {
  const queries = useQueryClient();
  const path = { box_id: boxId };
  const key = ["life", boxId];
  const life = useQuery({
    queryKey: key,
    staleTime: 0,
    queryFn: () => answer(client.GET("/api/boxes/{box_id}/life", { params: { path } })),
  });
  if (life.error) return <p role="alert">{life.error.message}</p>;
  if (!life.data) return <p className="text-ash">Adding it up…</p>;
  const { trips, nights, full_cycles, life_percent, text } = life.data;
  const past = trips.filter((trip) => trip.past).length;
  return (
    <div className="flex flex-col gap-4">
      <p>
        {past === 0
          ? "No trip with it is over yet. A trip counts here when it is."
          : `${past} ${past === 1 ? "trip is" : "trips are"} over: ${nights} nights, ${full_cycles.toFixed(1)} full cycles, ${spanText(life_percent)} % of the life that such a battery has.`}
      </p>
      <div className="overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="text-ash">
              <th scope="col">Trip</th>
              <th scope="col">From</th>
              <th scope="col" className="text-right">
                Nights
              </th>
              <th scope="col" className="text-right">
                Full cycles
              </th>
              <th scope="col" className="text-right">
                Of its life
              </th>
            </tr>
          </thead>
          <tbody>
            {trips.map((trip) => (
              <tr key={trip.plan_id} className="border-t border-line">
                <td>{trip.name}</td>
                <td>{trip.start}</td>
                <td className="text-right">{trip.nights}</td>
                <td className="text-right">{trip.full_cycles.toFixed(1)}</td>
                <td className="text-right">{spanText(trip.life_percent)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <h3>Its capacity</h3>
      <Readings life={life.data} />
      <p>{text}</p>
      <NewReading
        boxId={boxId}
        onKept={(next) => {
          queries.setQueryData(key, next);
          void queries.invalidateQueries({ queryKey: ["boxes"] });
        }}
      />
    </div>
  );
}

const WIDE = 620;
const HIGH = 170;

/** What the tests found, against the label. */
function Readings({ life }: { life: Life }) {
  const { readings, label_ah, worn_on } = life;
  const first = readings[0];
  const last = readings.at(-1);
  if (!first || !last) return null;
  const end = [worn_on ?? last.on, last.on].toSorted().at(-1) ?? last.on;
  const x = scaleTime([new Date(first.on), new Date(end)], [52, WIDE - 12]);
  const top = Math.max(label_ah, ...readings.map((one) => one.capacity_ah)) * 1.05;
  const y = scaleLinear([0, top], [HIGH - 24, 6]);
  const worn = 0.8 * first.capacity_ah;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full"
      role="img"
      aria-label={`Capacity from ${first.capacity_ah} Ah to ${last.capacity_ah} Ah`}
    >
      <LevelLines ticks={[0, label_ah]} y={y} from={52} to={WIDE - 12} text={(v) => `${v} Ah`} />
      <line
        x1={52}
        x2={WIDE - 12}
        y1={y(worn)}
        y2={y(worn)}
        stroke="var(--color-danger)"
        strokeDasharray="5 4"
      />
      <text x={58} y={y(worn) + 15} fontSize="12" fill="var(--color-danger)">
        80 % of the first test
      </text>
      {worn_on && (
        <line
          x1={x(new Date(first.on))}
          y1={y(first.capacity_ah)}
          x2={x(new Date(worn_on))}
          y2={y(worn)}
          stroke="var(--color-ash)"
          strokeDasharray="3 3"
        />
      )}
      {readings.map((one) => (
        <g key={one.on}>
          <circle
            cx={x(new Date(one.on))}
            cy={y(one.capacity_ah)}
            r="5"
            fill="var(--color-level)"
          />
          <text
            x={x(new Date(one.on))}
            y={HIGH - 6}
            fontSize="12"
            fill="var(--color-ash)"
            textAnchor="middle"
          >
            {one.on.slice(0, 7)}
          </text>
        </g>
      ))}
    </svg>
  );
}

function NewReading({ boxId, onKept }: { boxId: number; onKept: (life: Life) => void }) {
  const [ah, setAh] = useState("");
  const [on, setOn] = useState(() => new Date().toISOString().slice(0, 10));
  const [problem, setProblem] = useState<string | null>(null);
  async function keep(event: FormEvent) {
    event.preventDefault();
    try {
      const path = { box_id: boxId };
      const body = { on, capacity_ah: Number(ah.replace(",", ".")), how: "typed" };
      onKept(await answer(client.POST("/api/boxes/{box_id}/readings", { params: { path }, body })));
      setAh("");
      setProblem(null);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  }
  return (
    <form className="flex flex-wrap items-end gap-3" onSubmit={(event) => void keep(event)}>
      <label className="text-sm text-ash">
        A test found, in Ah
        <input
          className="field block w-28 text-right"
          inputMode="decimal"
          value={ah}
          onChange={(event) => setAh(event.target.value)}
        />
      </label>
      <label className="text-sm text-ash">
        on
        <input
          type="date"
          className="field block"
          value={on}
          onChange={(event) => setOn(event.target.value)}
        />
      </label>
      <Button type="submit" disabled={!ah.trim() || !on}>
        Write it down
      </Button>
      {problem && (
        <p role="alert" className="w-full text-danger">
          {problem}
        </p>
      )}
    </form>
  );
}
