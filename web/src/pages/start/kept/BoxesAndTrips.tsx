import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../../api/client";
import { part } from "../../../shell/part";
import { Button } from "../../../ui/Button";
import { FileKey } from "../../../ui/FileKey";
import { BoxCard } from "./BoxCard";

const DevicesDialog = part(() => import("./DevicesDialog"));

/** What is kept: boxes with their trips, what was put away, what was deleted. */
export function BoxesAndTrips({ ready }: { ready: boolean }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const [sharing, setSharing] = useState(false);
  const [gone, setGone] = useState<Schemas["TripCard"] | null>(null);
  const boxes = useQuery({
    queryKey: ["boxes"],
    queryFn: () => answer(client.GET("/api/boxes")),
  });
  const deleted = useQuery({
    queryKey: ["deleted"],
    queryFn: () => answer(client.GET("/api/boxes/deleted")),
  });
  const unreadable = useQuery({
    queryKey: ["unreadable"],
    queryFn: () => answer(client.GET("/api/plans/unreadable")),
  });
  async function again() {
    await Promise.all([
      queries.invalidateQueries({ queryKey: ["boxes"] }),
      queries.invalidateQueries({ queryKey: ["deleted"] }),
      queries.invalidateQueries({ queryKey: ["plans"] }),
    ]);
  }
  async function bringBack(plan_id: number) {
    await answer(client.POST("/api/plans/{plan_id}/restore", { params: { path: { plan_id } } }));
    setGone(null);
    await again();
  }
  async function bring(file: File) {
    const response = await fetch("/api/plans/import", {
      method: "POST",
      body: await file.arrayBuffer(),
    });
    const got = await response.json();
    if (response.ok) navigate(`/plan/${got.id}/trip`);
    else setProblem(got.detail);
  }
  return (
    <section aria-labelledby="boxes" className="mt-8">
      <div className="flex flex-wrap items-center gap-3">
        <h2 id="boxes" className="text-xl">
          Your boxes and trips
        </h2>
        <span className="ml-auto flex flex-wrap gap-2">
          <Button onClick={() => setSharing(true)}>Open it on a phone</Button>
          <a className="key" href="/api/backup" download>
            Save a copy of everything
          </a>
          <FileKey text="Open a plan file" accept=".json" onFile={(file) => void bring(file)} />
        </span>
      </div>
      <Suspense fallback={null}>
        {sharing && <DevicesDialog open onOpenChange={setSharing} />}
      </Suspense>
      {problem && (
        <p role="alert" className="mt-1 text-danger">
          {problem}
        </p>
      )}
      {gone && (
        <p role="status" className="card mt-2 flex flex-wrap items-center gap-3">
          {gone.name} is deleted.
          <Button onClick={() => void bringBack(gone.plan_id)}>Undo</Button>
        </p>
      )}
      {boxes.data?.length === 0 && (
        <p className="mt-1 text-ash">
          None yet. “Save and plan this trip” keeps the box of the sentence above, and its first
          trip.
        </p>
      )}
      <ul className="mt-2 grid gap-3 lg:grid-cols-2">
        {boxes.data?.map((box) => (
          <BoxCard
            key={box.id}
            box={box}
            ready={ready}
            onChanged={() => void again()}
            onDeleted={(trip) => {
              setGone(trip);
              void again();
            }}
          />
        ))}
      </ul>
      {unreadable.data?.map((plan) => (
        <p key={plan.plan_id} role="alert" className="card mt-2 flex flex-wrap items-center gap-3">
          <span>
            <strong>{plan.name} cannot be read.</strong> {plan.why} Nothing of it is lost.
          </span>
          <a className="key" href={`/api/plans/${plan.plan_id}/kept`} download>
            Save its file
          </a>
        </p>
      ))}
      {deleted.data && deleted.data.length > 0 && (
        <details className="mt-3">
          <summary className="cursor-pointer underline">
            Deleted in the last 30 days: {deleted.data.length}
          </summary>
          <ul className="mt-1 flex flex-col gap-1.5">
            {deleted.data.map((trip) => (
              <li key={trip.plan_id} className="flex flex-wrap items-center gap-3">
                {trip.name}
                <Button onClick={() => void bringBack(trip.plan_id)}>Bring back</Button>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
