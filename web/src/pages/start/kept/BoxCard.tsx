import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Dialog } from "../../../ui/Dialog";
import { TextField } from "../../../ui/fields/TextField";
import { BoxLife } from "./BoxLife";
import { NewTrip } from "./NewTrip";
import { TripLine } from "./TripLine";

export type Trip = Schemas["TripCard"];
interface Props {
  box: Schemas["BoxCard"];
  /** Whether the sentence has its answer: until then nothing else is worked out. */
  ready: boolean;
  onChanged: () => void;
  onDeleted: (trip: Trip) => void;
}

/** So many trips are shown at first; each is run for its verdict. */
const FIRST = 3;

/** One box: what it is, its trips, and what can be done with it. */
export function BoxCard({ box, ready, onChanged, onDeleted }: Props) {
  const navigate = useNavigate();
  const [shown, setShown] = useState<"trip" | "life" | "name" | null>(null);
  const [all, setAll] = useState(false);
  const path = { box_id: box.id };
  const kept = box.trips.filter((trip) => !trip.archived);
  const away = box.trips.filter((trip) => trip.archived);
  const closes = (open: boolean) => setShown(open ? shown : null);
  const lines = (trips: readonly Trip[]) =>
    trips.map((trip) => (
      <TripLine
        key={trip.plan_id}
        trip={trip}
        ready={ready}
        onChanged={onChanged}
        onDeleted={onDeleted}
      />
    ));
  return (
    <li className="card" data-testid={`box-${box.id}`}>
      <div className="flex items-start gap-2">
        <div className="min-w-0 flex-1">
          <h3 className="text-lg">{box.name}</h3>
          <p className="text-sm text-ash">{box.line}</p>
        </div>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button aria-label={`More of ${box.name}`}>⋯</Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="pop" align="end" sideOffset={6} collisionPadding={10}>
              <DropdownMenu.Item className="menu-item" onSelect={() => setShown("trip")}>
                New trip with this box
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => setShown("life")}>
                Its life
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => setShown("name")}>
                Rename it
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      <ul className="mt-2 flex flex-col gap-2">{lines(all ? kept : kept.slice(0, FIRST))}</ul>
      {!all && kept.length > FIRST && (
        <Button look="link" className="mt-2 text-sm" onClick={() => setAll(true)}>
          All {kept.length} trips
        </Button>
      )}
      {away.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer text-sm underline">Archived: {away.length}</summary>
          <ul className="mt-2 flex flex-col gap-2">{lines(away)}</ul>
        </details>
      )}
      <Dialog
        title={`A new trip with ${box.name}`}
        text="It takes the box as it is now, and what runs from its last trip."
        open={shown === "trip"}
        onOpenChange={closes}
      >
        <NewTrip boxId={box.id} onMade={(id) => navigate(`/plan/${id}/trip`)} />
      </Dialog>
      <Dialog title={`The life of ${box.name}`} open={shown === "life"} onOpenChange={closes}>
        <BoxLife boxId={box.id} />
      </Dialog>
      <Dialog title="What is it called?" open={shown === "name"} onOpenChange={closes}>
        <TextField
          label="Name of this box"
          value={box.name}
          onCommit={(name) => {
            void answer(
              client.PUT("/api/boxes/{box_id}/name", { params: { path }, body: { name } }),
            ).then(() => {
              setShown(null);
              onChanged();
            });
          }}
        />
      </Dialog>
    </li>
  );
}
