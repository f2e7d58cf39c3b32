import { useState } from "react";
import { answer, client, type Schemas } from "../../../api/client";
import { upload } from "../../../api/upload";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { withRemedy } from "../../../plan/judgements";
import { Button } from "../../../ui/Button";
import { Dialog } from "../../../ui/Dialog";
import { FileKey } from "../../../ui/FileKey";

type TrackLook = Schemas["TrackLook"];
type CalendarLook = Schemas["CalendarLook"];

const PACE = { kmh: "50", hours_a_day: "4", start: "09:00", day: "1" };
type Pace = typeof PACE;
const PACE_SAYS: readonly (readonly [keyof Pace, string, string])[] = [
  ["kmh", "Pace, km/h", "5 to 130"],
  ["hours_a_day", "Hours of driving a day", "0.25 to 16"],
  ["start", "Each day from", "like 09:00"],
  ["day", "First on day", "of the trip"],
];

/** Tracks and calendars in, calendar and places out: looked at first, then taken as one change. */
export function Roads() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Track and calendar</Button>
      <Dialog title="Track and calendar" open={open} onOpenChange={setOpen}>
        <Track />
        <Calendar />
        <Out />
      </Dialog>
    </>
  );
}

/** Whatever is read: busy, refused with a reason, or understood. */
function useLook<T>(read: (file: File) => Promise<T>) {
  const [state, setState] = useState<{ file: File | null; busy: boolean; trouble: string }>({
    file: null,
    busy: false,
    trouble: "",
  });
  const [look, setLook] = useState<T | null>(null);
  async function bring(file: File) {
    setState({ file, busy: true, trouble: "" });
    try {
      setLook(await read(file));
      setState({ file, busy: false, trouble: "" });
    } catch (error) {
      setLook(null);
      const trouble = error instanceof Error ? error.message : String(error);
      setState({ file, busy: false, trouble });
    }
  }
  return { ...state, look, bring, clear: () => setLook(null) };
}

interface TakeProps {
  text: string;
  did: string;
  edits: TrackLook["edits"];
  onTaken: () => void;
}

/** Takes what was understood, as one change; not there where it would change nothing. */
function TakeKey({ text, did, edits, onTaken }: TakeProps) {
  const store = usePlanStore();
  if (edits.length === 0) return null;
  return (
    <Button
      look="main"
      className="mt-2"
      onClick={() => {
        store.edit((plan) => withRemedy(plan, { text: "", edits }), did);
        onTaken();
      }}
    >
      {text}
    </Button>
  );
}

function Trouble({ text }: { text: string }) {
  if (!text) return null;
  return (
    <p role="alert" className="mt-1 text-danger">
      {text} The plan stays as it was.
    </p>
  );
}

function Track() {
  const id = usePlanPart((state) => state.plan.id);
  const [pace, setPace] = useState<Pace>(PACE);
  const { look, file, busy, trouble, bring, clear } = useLook<TrackLook>(async (chosen) =>
    answer(
      client.POST("/api/plans/{plan_id}/roads/track", {
        params: {
          path: { plan_id: id },
          query: {
            kmh: Number(pace.kmh.replace(",", ".")),
            hours_a_day: Number(pace.hours_a_day.replace(",", ".")),
            start: pace.start,
            day: Number(pace.day) - 1,
          },
        },
        ...(await upload(chosen, "application/gpx+xml")),
      }),
    ),
  );
  return (
    <section aria-labelledby="track" className="border-t border-line py-3">
      <h3 id="track" className="font-head font-semibold">
        A track or route as drives and stops
      </h3>
      <p className="mb-2 text-sm text-ash">
        From a GPX file. Its drives take the place of those that stand on the same days.
      </p>
      <FileKey
        text={busy ? "Reading…" : "Read a GPX file"}
        accept=".gpx,application/gpx+xml"
        onFile={(chosen) => void bring(chosen)}
      />
      <Trouble text={trouble} />
      {look && (
        <div className="mt-2" data-testid="track-look">
          <p className="font-semibold">{look.text}</p>
          {!look.timed && (
            <form
              className="my-2 grid grid-cols-2 gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                if (file) void bring(file);
              }}
            >
              <p className="col-span-2 text-sm text-ash">
                Its points have no times. How do you drive it?
              </p>
              {PACE_SAYS.map(([key, text, hint]) => (
                <label key={key} className="text-sm text-ash">
                  {text}
                  <input
                    className="field text-right"
                    value={pace[key]}
                    title={hint}
                    onChange={(event) => setPace({ ...pace, [key]: event.target.value })}
                  />
                </label>
              ))}
              <Button type="submit" className="col-span-2 justify-self-start">
                Read it so
              </Button>
            </form>
          )}
          <ul className="list-disc pl-5">
            {look.drives.map((drive) => (
              <li key={`${drive.day} ${drive.start}`}>{drive.text}</li>
            ))}
            {look.stops.map((stop) => (
              <li key={stop.name}>
                {stop.name}, {Math.round(stop.altitude_m)} m high: {stop.days.length}{" "}
                {stop.days.length === 1 ? "day" : "days"}
              </li>
            ))}
          </ul>
          <TakeKey
            text="Take these drives and stops"
            did="took drives and stops of a track"
            edits={look.edits}
            onTaken={clear}
          />
        </div>
      )}
    </section>
  );
}

function Calendar() {
  const id = usePlanPart((state) => state.plan.id);
  const { look, busy, trouble, bring, clear } = useLook<CalendarLook>(async (chosen) =>
    answer(
      client.POST("/api/plans/{plan_id}/roads/calendar", {
        params: { path: { plan_id: id } },
        ...(await upload(chosen, "text/calendar")),
      }),
    ),
  );
  return (
    <section aria-labelledby="calendar" className="border-t border-line py-3">
      <h3 id="calendar" className="font-head font-semibold">
        A calendar’s entries as drives
      </h3>
      <p className="mb-2 text-sm text-ash">From an iCalendar file (.ics).</p>
      <FileKey
        text={busy ? "Reading…" : "Read a calendar"}
        accept=".ics,text/calendar"
        onFile={(chosen) => void bring(chosen)}
      />
      <Trouble text={trouble} />
      {look && (
        <div className="mt-2" data-testid="calendar-look">
          <p className="font-semibold">{look.text}</p>
          <ul className="list-disc pl-5">
            {look.entries.map((entry) => (
              <li key={entry.text}>{entry.text}</li>
            ))}
          </ul>
          <TakeKey
            text="Take these entries"
            did="took entries of a calendar"
            edits={look.edits}
            onTaken={clear}
          />
        </div>
      )}
    </section>
  );
}

function Out() {
  const id = usePlanPart((state) => state.plan.id);
  return (
    <section aria-labelledby="out" className="border-t border-line py-3">
      <h3 id="out" className="font-head font-semibold">
        Export
      </h3>
      <p className="mb-2 text-sm text-ash">
        The calendar holds drives, mains, panels, the checks, and by when to be back.
      </p>
      <div className="flex flex-wrap gap-2">
        <a className="key" href={`/api/plans/${id}/calendar.ics`} download>
          Save as a calendar
        </a>
        <a className="key" href={`/api/plans/${id}/stops.geojson`} download>
          Save the places (GeoJSON)
        </a>
      </div>
    </section>
  );
}
