import { useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { Appliance } from "../../api/client";
import { useWidth } from "../../drawing/useWidth";
import { usePlanState, usePlanStore, useUnit } from "../../plan/context";
import { JudgementsOf } from "../../plan/judgements";
import { TakeKeys } from "../../plan/OwnShelf";
import { DAY_MIN } from "../../quantities/clock";
import { hourText } from "../../quantities/habits";
import { amountIn, amountText, shortFigure } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { Choice } from "../../ui/fields/Choice";
import { BestHours } from "./BestHours";
import { HouseRules } from "./HouseRules";
import { DayUse, Lane, type LaneActions } from "./lanes/Lane";
import {
  addFromShelf,
  axisMin,
  type DayKind,
  duplicateAppliance,
  hoursFor,
  hoursOf,
  KIND_SAYS,
  moveAppliance,
  type Stretch,
  withAppliance,
  withHoursFor,
  withoutAppliance,
} from "./lanes/lanes";
import { Together } from "./lanes/Together";
import { Shelf } from "./Shelf";
import { UseSentence } from "./UseSentence";

const KEY_PAUSE_MS = 500;
/** What the box's own parts draw: when, and how one knows. */
const OWN_SAYS: Record<string, { when: string; from: string }> = {
  "inverter-idle": { when: "whenever it is on", from: "from its own draw" },
  heater: { when: "whenever it is cold enough", from: "from its thermostat" },
};

/** What runs, when, and how it is powered: a lane an appliance, from noon to noon. */
export function UsePage() {
  const store = usePlanStore();
  const unit = useUnit();
  const { draft, run } = usePlanState();
  const [axis, width] = useWidth<HTMLDivElement>();
  const [query, setQuery] = useSearchParams();
  const [kind, setKind] = useState<DayKind>("site");
  const habits = useHabits();
  const opened = query.get("open");
  const setOpened = (id: string | null) => setQuery(id ? { open: id } : {}, { replace: true });
  const timer = useRef<number | undefined>(undefined);
  const { appliances } = draft.use;
  const { use } = run;
  const draws = new Map(use.draws.map((draw) => [draw.key, draw]));
  const most = Math.max(...use.draws.map((draw) => amountIn(draw.a_day, unit)), 1e-9);
  const mostA = Math.max(...use.draws.map((draw) => draw.running_a), 1e-9);
  const listed = new Set(appliances.map((appliance) => appliance.id));
  const own = use.draws.filter((draw) => !listed.has(draw.key) && draw.a_day.wh > 0);
  const night = width > 0 ? <NightBands width={width} day={run.days[0]} /> : null;

  const current = () => store.snapshot().draft;
  const withHours = (appliance: Appliance, index: number, stretch: Stretch): Appliance =>
    withHoursFor(appliance, kind, hoursFor(appliance, kind).with(index, hoursOf(stretch)));
  const actions: LaneActions = {
    pull: (appliance, index, stretch) =>
      store.preview(withAppliance(current(), withHours(appliance, index, stretch))),
    release: (did) => store.commit(current(), did),
    keyPull: (appliance, index, stretch) => {
      store.preview(withAppliance(current(), withHours(appliance, index, stretch)));
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(
        () => store.commit(current(), `changed the hours of ${appliance.name}`),
        KEY_PAUSE_MS,
      );
    },
    preview: (next) => store.preview(withAppliance(current(), next)),
    change: (next, did) => store.commit(withAppliance(current(), next), did),
    move: (id, to, done) => {
      const next = moveAppliance(current(), id, to);
      if (next === current()) return;
      if (done) store.commit(next, "moved an appliance");
      else store.preview(next);
    },
    duplicate: (id) => store.commit(duplicateAppliance(current(), id), "added another"),
    remove: (appliance) => {
      setOpened(null);
      store.commit(withoutAppliance(current(), appliance.id), `removed ${appliance.name}`);
    },
  };

  return (
    <>
      <UseSentence appliances={appliances} use={use} />
      <JudgementsOf part="use" notes={false} />
      <div className="mb-2 px-1">
        <Choice
          label="Hours shown"
          value={kind}
          options={(["site", "drive", "rest"] as const).map((one) => ({
            value: one,
            text: `${KIND_SAYS[one]}, ${draft.trip.days.filter((day) => day.kind === one).length} of ${draft.trip.days.length}`,
            title: "A day’s kind is set on the Trip page, by a click on its name.",
          }))}
          onChange={setKind}
        />
      </div>
      <section className="plate px-2 py-2 sm:px-3" aria-label="Appliances from noon to noon">
        <div className="grid items-end text-xs text-ash sm:grid-cols-[1.4rem_12.5rem_1fr_10.5rem] sm:gap-x-2">
          <span className="hidden sm:col-span-2 sm:block">appliance</span>
          <div ref={axis} className="relative h-5 min-w-0">
            {Array.from({ length: 9 }, (_, i) => i * 3).map((hour) => (
              <span
                key={hour}
                className="absolute -translate-x-1/2"
                style={{ left: Math.min(Math.max((hour / 24) * width, 7), width - 7) }}
              >
                {hourText((hour + 12) % 24, habits)}
              </span>
            ))}
          </div>
          <span className="hidden pl-1 sm:block">{unit} a day</span>
        </div>
        {width > 0 &&
          appliances.map((appliance, place) => {
            const draw = draws.get(appliance.id) ?? {
              key: appliance.id,
              name: appliance.name,
              a_day: { ah: 0, wh: 0 },
              running_a: appliance.power_w / use.bus_v,
              lost_wh: 0,
              profile_a: [],
            };
            return (
              <Lane
                key={appliance.id}
                appliance={appliance}
                place={place}
                draw={draw}
                width={width}
                most={most}
                mostA={mostA}
                night={night}
                hasInverter={draft.box.inverter != null}
                kind={kind}
                open={opened === appliance.id}
                onOpen={(open) => setOpened(open ? appliance.id : null)}
                actions={actions}
              />
            );
          })}
        {appliances.length === 0 && (
          <p className="py-6 text-center text-ash">
            Nothing runs yet. Take something from the shelf.
          </p>
        )}
        {own.map((draw) => (
          <div
            key={draw.key}
            className="grid grid-cols-[1fr_auto] items-center gap-x-2 py-1 sm:grid-cols-[14.4rem_1fr_10.5rem]"
          >
            <span className="pl-8 text-sm text-ash">{draw.name}</span>
            <span className="hidden text-sm text-ash sm:block">
              {shortFigure(draw.running_a)} A {OWN_SAYS[draw.key]?.when ?? "day and night"}
            </span>
            <DayUse
              figure={`appliance:${draw.key}`}
              name={draw.name}
              text={amountText(draw.a_day, unit)}
              share={amountIn(draw.a_day, unit) / most}
              guess={false}
              note={OWN_SAYS[draw.key]?.from ?? "from its own draw"}
            />
          </div>
        ))}
        {width > 0 && <Together use={use} width={width} night={night} />}
      </section>
      <BestHours />
      <HouseRules />
      <TakeKeys
        kind="appliance"
        onTake={(thing) => {
          if (!thing.appliance) return;
          const [next, id] = addFromShelf(current(), {
            label: thing.name,
            appliance: thing.appliance,
          });
          store.commit(next, `added ${thing.name}`);
          setOpened(id);
        }}
      />
      <Shelf
        onAdd={(item) => {
          const [next, id] = addFromShelf(current(), item);
          store.commit(next, `added ${item.label}`);
          setOpened(id);
        }}
      />
      <p className="mt-2 px-1 text-sm text-ash">
        Drag an end to change the hours, the bar to move it, ⠿ to change the order; a click on a
        name opens its figures, a click on a figure its sum.
      </p>
    </>
  );
}

/** Night as on the trip's first day, on the noon axis. */
function NightBands(props: {
  width: number;
  day?: { sunrise_min?: number | null; sunset_min?: number | null; sun_up_all_day: boolean };
}) {
  const { width, day } = props;
  const x = (minute: number) => (minute / DAY_MIN) * width;
  const dark = day && !day.sun_up_all_day;
  const set = day?.sunset_min == null ? 0 : axisMin(day.sunset_min);
  const rise = day?.sunrise_min == null ? DAY_MIN : axisMin(day.sunrise_min);
  return (
    <>
      <rect width={width} height="100%" fill="var(--color-day)" />
      {dark && rise > set && (
        <rect x={x(set)} width={x(rise - set)} height="100%" fill="var(--color-night)" />
      )}
      {[3, 6, 9, 12, 15, 18, 21].map((hour) => (
        <line
          key={hour}
          x1={x(hour * 60)}
          x2={x(hour * 60)}
          y2="100%"
          stroke="var(--color-ink)"
          strokeOpacity={hour === 12 ? 0.2 : 0.07}
        />
      ))}
    </>
  );
}
