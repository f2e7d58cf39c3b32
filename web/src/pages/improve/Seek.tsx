import { useState } from "react";
import type { Goal, Plan, Reference, Sought, Tried } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { useReference } from "../../plan/useReference";
import { dayName } from "../../quantities/clock";
import type { SourceGroup, SourcePart } from "../../sources";
import { Button } from "../../ui/Button";
import { NumberField } from "../../ui/fields/NumberField";
import { Select } from "../../ui/fields/Select";
import { OnwardChoice, useOnward } from "./Onward";
import { SeekCurve } from "./SeekCurve";
import { useLines } from "./useLines";

type Knob = Goal["knob"];
const EVERY_DAY = "every";
/** What takes a shop: once the trip is under way it cannot be changed. */
const SHOP: readonly Knob[] = ["panel", "battery", "charger"];

/** How much of one thing is enough to be as sure as one wants. */
export function Seek() {
  const store = usePlanStore();
  const document = usePlanPart((state) => state.plan.document);
  const tight = usePlanPart((state) => state.run.odds?.tight_day ?? state.run.verdict.lowest_day);
  const dates = usePlanPart((state) => state.run.days);
  const id = usePlanPart((state) => state.plan.id);
  const { track, onward } = useOnward();
  const kinds = useReference()?.sources ?? [];
  const knobs = knobsOf(document, kinds).filter(({ value }) => !onward || !SHOP.includes(value));
  const [sure, setSure] = useState(95);
  const [chosen, setKnob] = useState<Knob>("drive");
  const knob = knobs.some((other) => other.value === chosen)
    ? chosen
    : (knobs[0]?.value ?? "battery");
  const [day, setDay] = useState<string>(String(Math.max(tight - 1, 0)));
  const appliances = document.use.appliances.filter((appliance) => appliance.on);
  const [part, setPart] = useState<string>(appliances[0]?.id ?? "");
  const chargers = chargersOf(document);
  const [named, setCharger] = useState<string>(chargers[0]?.value ?? "");
  const charger = chargers.some((one) => one.value === named) ? named : (chargers[0]?.value ?? "");
  const { lines, busy, text, ask, cancel } = useLines<Tried | Sought>();
  const tried = lines.filter((line) => line.kind === "tried");
  const sought = lines.find((line) => line.kind === "sought");
  const remedy = sought?.try_it;
  const timed = unitOf(knob) === "min";
  const onDays = timed || knob === "hookup";
  const firstDay =
    track && onward
      ? Math.max(
          dates.findIndex((one) => one.date === track.now.slice(0, 10)),
          0,
        )
      : 0;

  function begin() {
    const everyDay = timed && day === EVERY_DAY;
    const goal: Goal = {
      sure_percent: sure,
      knob,
      day:
        onDays && !everyDay
          ? Math.max(Number(day === EVERY_DAY ? dates.length - 1 : day), firstDay)
          : null,
      part: knob === "appliance" ? part : knob === "charger" ? charger : null,
    };
    if (onward) ask(`/api/plans/${id}/track/seek`, goal);
    else ask("/api/improve/seek", { document, goal });
  }

  return (
    <section aria-label="How much is enough">
      <h2 className="mt-6 px-1 text-xl" data-testid="sought" aria-live="polite">
        {sought ? sought.text : "How much of one thing is enough?"}
      </h2>
      <p className="mb-3 px-1 text-ash">
        {sought
          ? `From ${sought.scenarios} tries, with the same weather for every value; their number alone leaves it unsure by about ${Math.max(Math.round(sought.unsure_points), 1)} points.`
          : "Say how sure you want to be and what you would change; the least that is enough is looked for."}
      </p>
      <div className="grid gap-4 md:grid-cols-[20rem_1fr]">
        <form
          className="plate grid content-start gap-3 p-4"
          onSubmit={(event) => {
            event.preventDefault();
            begin();
          }}
        >
          <OnwardChoice track={track} onward={onward} />
          <NumberField
            label="Be this sure"
            value={sure}
            limit="Goal.sure_percent"
            onCommit={setSure}
          />
          <Select<Knob> label="by changing" value={knob} options={knobs} onChange={setKnob} />
          {onDays && (
            <Select
              label={timed ? "on" : "the last night from"}
              value={day !== EVERY_DAY && Number(day) < firstDay ? String(firstDay) : day}
              options={[
                ...(timed ? [{ value: EVERY_DAY, text: "every day" }] : []),
                ...dates
                  .map((one, i) => ({
                    value: String(i),
                    text: dayName(one.date, dates.length > 28),
                  }))
                  .slice(firstDay),
              ]}
              onChange={setDay}
            />
          )}
          {knob === "appliance" && (
            <Select
              label="of"
              value={part}
              options={appliances.map((a) => ({ value: a.id, text: a.name }))}
              onChange={setPart}
            />
          )}
          {knob === "charger" && (
            <Select label="of" value={charger} options={chargers} onChange={setCharger} />
          )}
          <div className="flex gap-2">
            <Button look="main" type="submit">
              Seek
            </Button>
            {busy && <Button onClick={cancel}>Stop</Button>}
          </div>
        </form>
        <div className="plate min-h-64 p-4">
          {text && <p role="alert">{text}</p>}
          {tried.length === 0 && !text && (
            <p className="text-ash">What is tried appears here, from none to the most.</p>
          )}
          {tried.length > 0 && (
            <SeekCurve
              tried={tried}
              sure={sought?.sure_percent ?? sure}
              unit={unitOf(knob)}
              found={sought?.value ?? null}
            />
          )}
          {remedy && (
            <div className="mt-3 flex gap-2">
              <Button
                look="main"
                onClick={() => store.try(withRemedy(document, remedy), sought?.text ?? "")}
              >
                {remedy.text}
              </Button>
              <Button onClick={() => store.commit(withRemedy(document, remedy), remedy.text)}>
                Keep it
              </Button>
            </div>
          )}
        </div>
      </div>
    </section>
  );
}

const UNITS: Partial<Record<Knob, string>> = {
  hookup: "nights",
  panel: "W",
  appliance: "%",
  battery: "Ah",
  charger: "A",
};
/** Minutes of whatever is had by the minute; the others have units of their own. */
function unitOf(knob: Knob): string {
  return UNITS[knob] ?? "min";
}

type Kinds = readonly Reference["sources"][number][];

function knobsOf(plan: Plan, kinds: Kinds): { value: Knob; text: string }[] {
  const knobs: { value: Knob; text: string; has: boolean }[] = [
    ...kinds.flatMap(({ key, block, knob }) =>
      block && knob
        ? [
            {
              value: block as Knob,
              text: `minutes of ${knob}`,
              has: (plan.box[key as SourceGroup] as SourcePart[]).some((one) => one.on),
            },
          ]
        : [],
    ),
    { value: "hookup", text: "nights on mains", has: plan.box.mains.some((m) => m.on) },
    { value: "panel", text: "watts of panel", has: plan.box.sun.some((s) => s.on) },
    {
      value: "appliance",
      text: "how long an appliance runs",
      has: plan.use.appliances.some((a) => a.on),
    },
    { value: "charger", text: "a charger\u2019s size", has: chargersOf(plan).length > 0 },
    { value: "battery", text: "the battery\u2019s size", has: plan.box.unit == null },
  ];
  return knobs.filter((knob) => knob.has).map(({ value, text }) => ({ value, text }));
}

/** What has a size to change: all but a relay. */
function chargersOf(plan: Plan): { value: string; text: string }[] {
  const { sun, vehicle, mains } = plan.box;
  return [
    ...sun.map((one) => ({ ...one, name: `${one.name}, its controller` })),
    ...vehicle.filter((one) => one.kind !== "relay"),
    ...mains,
  ]
    .filter((one) => one.on)
    .map((one) => ({ value: one.id, text: one.name }));
}
