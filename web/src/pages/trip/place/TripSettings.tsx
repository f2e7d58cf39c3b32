import { Dialog } from "radix-ui";
import { useId, useState } from "react";
import { answer, client, type Plan, refusalIn } from "../../../api/client";
import { usePlanState, usePlanStore } from "../../../plan/context";
import { useReference } from "../../../plan/useReference";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import { NumberField } from "../../../ui/fields/NumberField";
import { PlaceSearch } from "../../../ui/fields/PlaceSearch";
import { Select } from "../../../ui/fields/Select";
import { TextField } from "../../../ui/fields/TextField";
import { DoubtFields } from "./DoubtFields";
import { monthsOf, PlaceYear } from "./PlaceYear";
import { StopsList } from "./StopsList";
import { WeatherFile } from "./WeatherFile";

/** Where the trip is, when it starts, how full the battery is then, and the guesses behind it. */
export function TripSettings() {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button>Place and start</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="pop fixed inset-x-3 top-[8vh] max-h-[84vh] overflow-y-auto sm:inset-x-auto sm:left-1/2 sm:w-[30rem] sm:max-w-none sm:-translate-x-1/2"
        >
          <Dialog.Title className="mb-3 text-lg">Place and start</Dialog.Title>
          <Fields />
          <div className="mt-4 text-right">
            <Dialog.Close className="key">Close</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Only there while the sheet is open, so that a drag does not draw it. */
function Fields() {
  const store = usePlanStore();
  const { draft } = usePlanState();
  const { trip, assumptions } = draft;
  const { site } = trip;
  const edit = (part: Partial<Plan["trip"]>, did: string) =>
    store.edit((old) => ({ ...old, trip: { ...old.trip, ...part } }), did);
  const place = (part: Partial<typeof site>) =>
    edit({ site: { ...store.snapshot().draft.trip.site, ...part } }, "changed the place");
  /** Another place brings its own climate; a weather file stays until it is left out. */
  const settle = (part: Partial<typeof site>) =>
    store.edit(
      (old) => ({
        ...old,
        trip: { ...old.trip, site: { ...old.trip.site, ...part } },
        assumptions: { ...old.assumptions, climate: "place" },
      }),
      "changed the place",
    );
  /** Coordinates bring their clock and their height with them. */
  async function moved(part: Partial<typeof site>) {
    const next = { ...store.snapshot().draft.trip.site, ...part };
    const query = { latitude: next.latitude, longitude: next.longitude };
    try {
      const spot = await answer(client.GET("/api/places/at", { params: { query } }));
      settle({ ...part, ...spot });
    } catch (error) {
      store.showProblem(refusalIn(error).problem);
    }
  }
  const climates = useReference()?.climates ?? [];
  const guess = (part: Partial<typeof assumptions>) =>
    store.edit(
      (old) => ({ ...old, assumptions: { ...old.assumptions, ...part } }),
      "changed an assumption",
    );

  return (
    <div className="grid grid-cols-2 gap-3">
      <div className="col-span-2">
        <Choice
          label="The box is"
          showLabel
          value={trip.kind}
          options={[
            { value: "travel", text: "travelling" },
            { value: "standby", text: "standing by on mains" },
            { value: "alone", text: "left alone" },
          ]}
          onChange={(kind) => edit({ kind }, "changed the kind of trip")}
        />
      </div>
      <div className="col-span-2">
        <PlaceSearch
          label="Find a place"
          onChoose={({ name, latitude, longitude, timezone, altitude_m }) =>
            settle({ name, latitude, longitude, timezone, altitude_m })
          }
        />
      </div>
      <div className="col-span-2">
        <TextField label="Place" value={site.name} onCommit={(name) => place({ name })} />
      </div>
      <NumberField
        label="Latitude"
        value={site.latitude}
        limit="Site.latitude"
        unit="° north"
        onCommit={(latitude) => void moved({ latitude })}
      />
      <NumberField
        label="Longitude"
        value={site.longitude}
        limit="Site.longitude"
        unit="° east"
        onCommit={(longitude) => void moved({ longitude })}
      />
      <NumberField
        label="Height above the sea"
        value={site.altitude_m}
        limit="Site.altitude_m"
        onCommit={(altitude_m) => place({ altitude_m })}
      />
      <TextField
        label="Time zone"
        value={site.timezone}
        most={60}
        onCommit={(timezone) => place({ timezone })}
      />
      <div className="col-span-2">
        <PlaceYear site={site} months={monthsOf(trip.start, trip.days.length)} />
      </div>
      <StartDate value={trip.start} onCommit={(start) => edit({ start }, "moved the start")} />
      <NumberField
        label="Level at the first midnight"
        value={trip.start_percent}
        limit="Trip.start_percent"
        onCommit={(start_percent) => edit({ start_percent }, "changed the start level")}
      />
      <NumberField
        label="Reserve"
        hint="Below this the plan counts as failed."
        value={trip.floor_percent}
        limit="Trip.floor_percent"
        onCommit={(floor_percent) => edit({ floor_percent }, "moved the reserve")}
      />
      <div className="col-span-2">
        <Select
          label="Climate"
          value={assumptions.climate ?? "none"}
          options={[
            { value: "none", text: "none: the figures below" },
            ...climates.map((c) => ({ value: c.key, text: c.text })),
          ]}
          onChange={(key) =>
            guess({ climate: key === "none" ? null : (key as typeof assumptions.climate) })
          }
        />
      </div>
      <div className="col-span-2">
        <WeatherFile
          weather={assumptions.weather}
          onRead={(report) => guess({ weather: report.climate })}
          onClear={() => guess({ weather: null })}
        />
      </div>
      <NumberField
        label="Average weather lets through"
        hint="For days marked ‘usual for the season’."
        value={assumptions.usual_clearness}
        limit="Assumptions.usual_clearness"
        per={100}
        unit="% of clear"
        empty={assumptions.climate ? "the climate’s" : "68"}
        onClear={() => guess({ usual_clearness: null })}
        onCommit={(usual_clearness) => guess({ usual_clearness })}
      />
      <NumberField
        label="Simulated in steps of"
        hint="Empty: 5 min, 15 over a month, 60 over four."
        value={assumptions.step_min}
        limit="Assumptions.step_min"
        empty="by itself"
        onClear={() => guess({ step_min: null })}
        onCommit={(step_min) => guess({ step_min })}
      />
      <NumberField
        label="Coldest of a day"
        value={assumptions.low_c}
        limit="Assumptions.low_c"
        unit="°C"
        empty={assumptions.climate ? "the climate’s" : "10"}
        onClear={() => guess({ low_c: null })}
        onCommit={(low_c) => guess({ low_c })}
      />
      <NumberField
        label="Warmest of a day"
        value={assumptions.high_c}
        limit="Assumptions.high_c"
        unit="°C"
        empty={assumptions.climate ? "the climate’s" : "18"}
        onClear={() => guess({ high_c: null })}
        onCommit={(high_c) => guess({ high_c })}
      />
      <NumberField
        label="Coldest ever there"
        hint="In this season. It sets the highest voltage of panels."
        value={assumptions.record_low_c}
        limit="Assumptions.record_low_c"
        unit="°C"
        empty="estimated"
        onClear={() => guess({ record_low_c: null })}
        onCommit={(record_low_c) => guess({ record_low_c })}
      />
      <div className="col-span-2">
        <StopsList
          stops={trip.stops}
          onChange={(stops, did) => {
            const known = new Set(stops.map((stop) => stop.id));
            const days = trip.days.map((day) =>
              day.stop && !known.has(day.stop) ? { ...day, stop: null } : day,
            );
            edit({ stops, days }, did);
          }}
        />
      </div>
      <div className="col-span-2">
        <DoubtFields assumptions={assumptions} onChange={guess} />
      </div>
    </div>
  );
}

function StartDate({ value, onCommit }: { value: string; onCommit: (date: string) => void }) {
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        First day
      </label>
      <input
        id={id}
        type="date"
        className="field"
        defaultValue={value}
        min="1990-01-01"
        max="2099-12-31"
        aria-invalid={text !== null}
        onBlur={(event) => {
          const next = event.target.value;
          const good = /^(199\d|20\d\d)-\d\d-\d\d$/.test(next);
          setText(good ? null : "This is not a date from 1990 to 2099. Enter one.");
          if (good && next !== value) onCommit(next);
        }}
      />
      {text && (
        <p role="alert" className="mt-1 text-sm text-danger">
          {text} The plan stays as it was.
        </p>
      )}
    </div>
  );
}
