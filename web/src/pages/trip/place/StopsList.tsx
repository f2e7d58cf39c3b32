import type { Plan } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { NumberField } from "../../../ui/fields/NumberField";
import { PlaceSearch } from "../../../ui/fields/PlaceSearch";
import { TextField } from "../../../ui/fields/TextField";
import { freshId } from "../board/blocks/blocks";

type Stop = Plan["trip"]["stops"][number];

interface Props {
  stops: readonly Stop[];
  onChange: (stops: Stop[], did: string) => void;
}

/** Other places of the trip; on the board each day says which it is spent at. */
export function StopsList({ stops, onChange }: Props) {
  const set = (id: string, part: Partial<Stop>) =>
    onChange(
      stops.map((stop) => (stop.id === id ? { ...stop, ...part } : stop)),
      "changed a stop",
    );
  return (
    <fieldset className="grid gap-3">
      <legend className="mb-1 font-head font-semibold">Other places of the trip</legend>
      {stops.map((stop) => (
        <div key={stop.id} className="grid grid-cols-2 gap-2 rounded-lg border border-line p-2">
          <div className="col-span-2 flex items-end gap-2">
            <div className="min-w-0 flex-1">
              <TextField
                label="Name"
                value={stop.name}
                onCommit={(name) => set(stop.id, { name })}
              />
            </div>
            <Button
              aria-label={`Remove ${stop.name}`}
              onClick={() =>
                onChange(
                  stops.filter((other) => other.id !== stop.id),
                  "removed a stop",
                )
              }
            >
              Remove
            </Button>
          </div>
          <NumberField
            label="Latitude"
            value={stop.latitude}
            limit="Stop.latitude"
            unit="° north"
            onCommit={(latitude) => set(stop.id, { latitude })}
          />
          <NumberField
            label="Longitude"
            value={stop.longitude}
            limit="Stop.longitude"
            unit="° east"
            onCommit={(longitude) => set(stop.id, { longitude })}
          />
          <NumberField
            label="Height above the sea"
            value={stop.altitude_m}
            limit="Stop.altitude_m"
            onCommit={(altitude_m) => set(stop.id, { altitude_m })}
          />
        </div>
      ))}
      <PlaceSearch
        label="Add a place by a town near it"
        onChoose={({ name, latitude, longitude, altitude_m }) => {
          const id = freshId(
            "stop",
            stops.map((stop) => stop.id),
          );
          onChange([...stops, { id, name, latitude, longitude, altitude_m }], `added ${name}`);
        }}
      />
    </fieldset>
  );
}
