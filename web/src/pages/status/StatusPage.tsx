import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { dayName } from "../../quantities/clock";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { StartHeader } from "../start/StartHeader";

const AGAIN_MS = 10_000;

/** How the program stands: its data, its copies, and what it does without being asked. */
export function StatusPage() {
  const asked = useQuery({
    queryKey: ["health"],
    queryFn: () => answer(client.GET("/health")),
    refetchInterval: AGAIN_MS,
  });
  const health = asked.data;
  return (
    <>
      <StartHeader />
      <main className="mx-auto max-w-[1000px] px-4 pt-5 pb-14 sm:px-6">
        <h1 className="text-2xl">How the program stands</h1>
        {asked.error && (
          <p role="alert" className="plate mt-4 p-4">
            {asked.error.message}
          </p>
        )}
        {health && <Told health={health} />}
      </main>
    </>
  );
}

function Told({ health }: { health: Schemas["HealthReport"] }) {
  const habits = useHabits();
  const well = health.status === "well";
  /** A moment of UTC by this device's own clock. */
  const when = (utc: string) => {
    const at = new Date(utc);
    const local = new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString();
    return `${dayName(local.slice(0, 10), true)}, ${clockText(local.slice(11, 16), habits)}`;
  };
  return (
    <>
      <p role="status" className={`mt-2 text-lg ${well ? "" : "text-danger"}`}>
        {well ? "✓ All is well." : "▲ Something needs you: see below."}
      </p>
      <section className="card mt-4" aria-labelledby="data">
        <h2 id="data" className="text-lg">
          Your data
        </h2>
        <dl className="mt-1">
          <Line name="The data file">
            {health.database === "ok" ? "✓ It answers." : `▲ ${health.database}`}
          </Line>
          <Line name="The newest copy that was kept by itself">
            {health.newest_copy_at ? when(health.newest_copy_at) : "None yet."}
          </Line>
          <Line name="Free space beside it">{(health.free_bytes / 1e9).toFixed(1)} GB</Line>
          <Line name="Version">{health.version}</Line>
        </dl>
        <a className="key mt-3 inline-flex items-center" href="/api/backup" download>
          Save a copy of everything
        </a>
      </section>
      <section className="card mt-4" aria-labelledby="parts">
        <h2 id="parts" className="text-lg">
          What it does by itself
        </h2>
        {health.parts.length === 0 && <p className="mt-1">Nothing has been done yet.</p>}
        <dl className="mt-1">
          {health.parts.map((part) => (
            <Line key={part.name} name={part.title}>
              {part.well ? (
                <>✓ last done {part.well_at ? when(part.well_at) : "never"}</>
              ) : (
                <span className="text-danger">
                  ▲ failed {part.failed_at && when(part.failed_at)}: {part.reason}
                </span>
              )}
            </Line>
          ))}
        </dl>
        <p className="mt-3 text-sm text-ash">
          What fails is written to the program’s log with its time, and tried again. On the machine
          itself <code>oddkettle doctor</code> looks deeper.
        </p>
      </section>
    </>
  );
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex flex-wrap gap-x-4 border-b border-line/70 py-1.5">
      <dt className="min-w-48 flex-1">{name}</dt>
      <dd className="min-w-0 flex-1 font-semibold break-words">{children}</dd>
    </div>
  );
}
