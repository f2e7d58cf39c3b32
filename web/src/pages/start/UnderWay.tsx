import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";

/** The trips that are under way, before all that is planned: a press opens their day. */
export function UnderWay({ ready }: { ready: boolean }) {
  const boxes = useQuery({
    queryKey: ["boxes"],
    queryFn: () => answer(client.GET("/api/boxes")),
  });
  const trips = (boxes.data ?? [])
    .flatMap((box) => box.trips)
    .filter((trip) => trip.when === "under_way" && !trip.archived);
  if (trips.length === 0) return null;
  return (
    <section aria-label="Under way" className="plate mb-4 divide-y divide-line px-4 py-1">
      {trips.map((trip) => (
        <Day key={trip.plan_id} id={trip.plan_id} name={trip.name} ready={ready} />
      ))}
    </section>
  );
}

function Day({ id, name, ready }: { id: number; name: string; ready: boolean }) {
  const glance = useQuery({
    queryKey: ["glance", id],
    staleTime: 0,
    enabled: ready,
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/glance", { params: { path: { plan_id: id } } })),
  });
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
      <span className="min-w-0 flex-1 basis-60">
        <strong className="font-head">{name}, under way</strong>
        <span className="block text-ash">{glance.data?.headline ?? "…"}</span>
      </span>
      <Link className="key key-on px-4" to={`/plan/${id}/today`}>
        Open today
      </Link>
    </div>
  );
}
