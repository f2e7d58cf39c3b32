import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { AwayBanner } from "../../away/AwayBanner";
import { isAway } from "../../away/isAway";
import { markOf, outbox } from "../../away/outbox";
import { storage } from "../../away/storage";
import { usePlanPart } from "../../plan/context";
import { useLogRefresh } from "../../plan/useLog";
import { Button } from "../../ui/Button";
import { DayView } from "./DayView";
import { SunToday } from "./SunToday";

const AGAIN_MS = 5000;
/** A page that stands open goes with the day. */
const ANEW_MS = 300_000;

/** The field page: where it stands, what to do until dawn, and readings with one thumb. */
export function TodayPage() {
  const plan = usePlanPart((state) => state.plan);
  const floor = usePlanPart((state) => state.draft.trip.floor_percent);
  const refresh = useLogRefresh();
  const path = { plan_id: plan.id };
  const today = useQuery({
    queryKey: ["today", plan.id, plan.revision],
    placeholderData: keepPreviousData,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/track/today", { params: { path } })),
    // While the server is away it is asked again and again; what waits goes out when it is back.
    refetchInterval: (query) => (isAway(query.state.error) ? AGAIN_MS : ANEW_MS),
  });
  const day = today.data;
  const away = isAway(today.error);
  const known = today.dataUpdatedAt;
  useEffect(() => {
    if (!day || away) return;
    const keptAt = new Date(known).toISOString();
    void storage.keepDay({ ...markOf(plan), floor, keptAt, day });
    void outbox.send();
  }, [day, away, known, plan, floor]);

  if (!day && today.error)
    return (
      <p role="alert" className="plate mt-4 p-4">
        {today.error.message}
      </p>
    );
  if (!day) return <p className="p-8 text-ash">Looking at the day…</p>;
  return (
    <DayView
      trip={markOf(plan)}
      day={day}
      floor={floor}
      banner={away && <AwayBanner keptAt={new Date(known).toISOString()} />}
      onSent={refresh}
    >
      <SunToday at={day.now} />
      <p className="flex flex-wrap gap-x-5 px-1 print:hidden">
        <Link className="underline" to={`/plan/${plan.id}/improve`}>
          What fixes it?
        </Link>
        <Link className="underline" to={`/plan/${plan.id}/trip`}>
          The whole trip
        </Link>
        <Button look="link" onClick={() => window.print()}>
          Print a card for the lid
        </Button>
      </p>
    </DayView>
  );
}
