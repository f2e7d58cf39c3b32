import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { DropdownMenu } from "radix-ui";
import { Link, useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../../api/client";
import { areaPath, linePath } from "../../../drawing/paths";
import { Button } from "../../../ui/Button";
import type { Trip } from "./BoxCard";

const WHEN: Record<Trip["when"], string> = {
  ahead: "ahead",
  under_way: "under way",
  over: "over",
};
const WIDE = 92;
const HIGH = 34;

interface Props {
  trip: Trip;
  ready: boolean;
  onChanged: () => void;
  onDeleted: (trip: Trip) => void;
}

/** One trip: when, how it goes, and what can be done with it. */
export function TripLine({ trip, ready, onChanged, onDeleted }: Props) {
  const navigate = useNavigate();
  const path = { plan_id: trip.plan_id };
  const glance = useQuery({
    queryKey: ["glance", trip.plan_id],
    staleTime: 0,
    enabled: ready,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/glance", { params: { path } })),
  });
  async function copy(same_box: boolean) {
    const body = { name: `${trip.name}, a copy`.slice(0, 80), same_box };
    const made = await answer(client.POST("/api/plans/{plan_id}/copy", { params: { path }, body }));
    navigate(`/plan/${made.id}/trip`);
  }
  async function archive() {
    const query = { away: !trip.archived };
    await answer(client.PUT("/api/plans/{plan_id}/archived", { params: { path, query } }));
    onChanged();
  }
  async function remove() {
    await answer(client.DELETE("/api/plans/{plan_id}", { params: { path } }));
    onDeleted(trip);
  }
  const acts: readonly (readonly [string, () => void])[] = [
    ["Copy, with this box", () => void copy(true)],
    ["Copy, with a box of its own", () => void copy(false)],
    [trip.archived ? "Take out of the archive" : "Archive", () => void archive()],
    ["Delete", () => void remove()],
  ];
  return (
    <li className="flex items-center gap-3 border-t border-line pt-2">
      <Spark glance={glance.data} />
      <div className="min-w-0 flex-1 leading-snug">
        <Link
          className="font-semibold underline"
          to={`/plan/${trip.plan_id}/${trip.when === "under_way" ? "today" : "trip"}`}
        >
          {trip.name}
        </Link>
        <p className="text-sm">{glance.data?.headline ?? "…"}</p>
        <p className="text-sm text-ash">
          {trip.length} near {trip.place}, from {dateText(trip.start)}: {WHEN[trip.when]}
          {trip.box_behind ? ". The box has changed since" : ""}
        </p>
      </div>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button aria-label={`More of ${trip.name}`}>⋯</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop" align="end" sideOffset={6} collisionPadding={10}>
            {acts.map(([text, act]) => (
              <DropdownMenu.Item key={text} className="menu-item" onSelect={act}>
                {text}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}

function dateText(day: string): string {
  const written = { day: "numeric", month: "short", year: "numeric" } as const;
  return new Date(`${day}T12:00`).toLocaleDateString("en-GB", written);
}

/** The level over the trip, very small, with the reserve as a line. */
function Spark({ glance }: { glance: Schemas["Glance"] | undefined }) {
  const levels = glance?.level_percent ?? [];
  const x = scaleLinear([0, Math.max(levels.length - 1, 1)], [0, WIDE]);
  const y = scaleLinear([0, 100], [HIGH, 1]);
  const points = levels.map((level, i) => ({ x: x(i), y: y(level) }));
  return (
    <svg width={WIDE} height={HIGH} className="shrink-0 rounded bg-day" aria-hidden="true">
      <path d={areaPath(points, HIGH)} fill="var(--color-level-tint)" />
      <path d={linePath(points)} fill="none" stroke="var(--color-level)" strokeWidth="2" />
      {glance && (
        <line
          x2={WIDE}
          y1={y(glance.floor_percent)}
          y2={y(glance.floor_percent)}
          stroke="var(--color-danger)"
          strokeDasharray="4 3"
          strokeWidth="1.5"
        />
      )}
    </svg>
  );
}
