import type { Plan, RunReport, Schemas } from "../../api/client";
import { BATTERY_AGES } from "../../plan/batteryAges";
import { useUnit } from "../../plan/context";
import { amountText, hoursText, percentText, unbroken } from "../../quantities/units";
import type { Sentence } from "../../sentence/sentence";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { useSlow } from "../../ui/useSlow";
import { LevelPicture } from "./LevelPicture";

interface Props {
  run: RunReport;
  trip: Plan["trip"];
  notes: readonly string[];
  /** What is said at once where health may hang on something that runs. */
  caution: string | null;
  change: Schemas["SmallChange"] | undefined;
  changing: boolean;
  behind: boolean;
  /** One usual run; the odds are still being worked out. */
  firstLook: boolean;
  boxes: Schemas["BoxOffer"][] | undefined;
  kept: boolean;
  /** What nobody said and matters most, with the other choices. */
  assumed: readonly Schemas["Assumed"][];
  onAssume: (sentence: Sentence) => void;
  age: Sentence["bank"]["age"];
  onAge: (age: NonNullable<Sentence["bank"]["age"]>) => void;
  onPutIn: (change: Schemas["SmallChange"]) => void;
  onTakeOut: () => void;
  onTakeBox: (offer: Schemas["BoxOffer"]) => void;
  onMakeMine: () => void;
}

/** The verdict, the level, the surest small change. */
export function Answer(props: Props) {
  const unit = useUnit();
  const { run, trip, notes, behind, boxes, onMakeMine } = props;
  const { use: used, total, odds } = run;
  const sources = total.sources.filter((source) => source.taken.ah >= 0.05);
  const days = daysOf(trip);
  return (
    <section
      aria-label="The answer"
      aria-busy={behind}
      className="plate relative mt-4 grid gap-5 p-4 sm:p-6 lg:grid-cols-[minmax(0,24rem)_1fr]"
    >
      {behind && <Working />}
      <div className={`flex flex-col gap-3 ${behind ? "opacity-35" : ""}`}>
        <div aria-live="polite">
          <h2 className="text-2xl" data-testid="verdict">
            {boxes ? "What you need" : run.headline}
          </h2>
          {!boxes && props.firstLook && (
            <p className="mt-1 text-ash" data-testid="first-look">
              A first look, in usual weather. The odds follow.
            </p>
          )}
          {!boxes && odds && <p className="mt-1 text-ash">{unbroken(odds.detail)}</p>}
          {!boxes && (
            <p className="mt-1 text-ash">
              You use {amountText(used.a_day, unit)} {unit} a day.{" "}
              {sources.length === 0
                ? "Nothing charges it on the way."
                : `${sources
                    .map(({ name, taken }) => {
                      const a_day = { ah: taken.ah / days, wh: taken.wh / days };
                      return `${name} adds ${amountText(a_day, unit)}`;
                    })
                    .join(", ")}.`}
            </p>
          )}
        </div>
        {props.caution && (
          <p
            role="note"
            className="rounded-lg border-2 border-danger px-3 py-2"
            data-testid="medical"
          >
            <strong>▲ </strong>
            {props.caution}
          </p>
        )}
        {boxes ? <Offers offers={boxes} onTake={props.onTakeBox} /> : <Change {...props} />}
        {!boxes && (
          <Button
            look="main"
            className="self-start px-5 py-2"
            disabled={behind}
            onClick={onMakeMine}
          >
            Save and plan this trip
          </Button>
        )}
        {props.assumed.length > 0 && <AssumedList {...props} />}
        <details className="text-sm text-ash">
          <summary className="cursor-pointer py-1">What we assumed</summary>
          <ul className="list-disc pl-5">
            {notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
          {!boxes && (
            <p className="mt-1 flex flex-wrap items-center gap-2 pl-5">
              <span id="battery-age">Your battery is</span>
              <Choice
                label="How old is the battery?"
                value={props.age ?? null}
                options={BATTERY_AGES}
                onChange={props.onAge}
              />
            </p>
          )}
        </details>
      </div>
      <div className={behind ? "opacity-35" : ""}>
        <LevelPicture run={run} floor={trip.floor_percent} />
      </div>
    </section>
  );
}

/** That what stands here belongs to the sentence before; a bar where it takes longer. */
function Working() {
  const slow = useSlow(true);
  return (
    <p
      role="status"
      className="absolute top-2 right-4 left-4 z-10 rounded bg-plate/90 px-2 font-semibold sm:left-6"
    >
      Working it out: below is still the answer to the sentence before.
      {slow && (
        <span className="mt-1 block h-1 overflow-hidden rounded bg-line" aria-hidden="true">
          <span className="block h-full w-1/3 animate-pulse bg-rim" />
        </span>
      )}
    </p>
  );
}

/** What nobody said: as it was taken, and how to say otherwise. */
function AssumedList({ assumed, onAssume }: Props) {
  return (
    <section aria-label="It also depends on" className="border-l-4 border-sun pl-3">
      <h3 className="text-base">It also depends on</h3>
      <ul className="flex flex-col gap-2">
        {assumed.map((one) => (
          <li key={one.key}>
            {unbroken(one.text)}{" "}
            <Choice
              label={one.text}
              value={one.choices.find((choice) => choice.chosen)?.text ?? null}
              options={one.choices.map(({ text }) => ({ value: text, text }))}
              onChange={(text) => {
                const chosen = one.choices.find((choice) => choice.text === text);
                if (chosen) onAssume(chosen.sentence as Sentence);
              }}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The days of a trip from its hour of setting out to that of coming home: noon to noon is whole. */
function daysOf({ days, begins, ends }: Plan["trip"]): number {
  const hours = (clock: string) => Number(clock.slice(0, 2)) + Number(clock.slice(3)) / 60;
  const spare = (begins ? hours(begins) : 0) + (ends ? 24 - hours(ends) : 0);
  return Math.max(days.length - spare / 24, 1 / 24);
}

function Change({ change, changing, behind, kept, onPutIn, onTakeOut }: Props) {
  if (kept)
    return (
      <p>
        The change is in.{" "}
        <Button look="link" onClick={onTakeOut}>
          Take it out
        </Button>
      </p>
    );
  if (!change?.change)
    return changing ? (
      <p className="text-ash">Looking for the smallest change that helps…</p>
    ) : null;
  return (
    <div>
      <h3>
        {!change.mends
          ? "What helps most, and is not enough by itself"
          : change.bought
            ? "What fixes it"
            : "The easiest fix"}
      </h3>
      <p className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <span>
          {change.change.text}: it lasts in{" "}
          <strong>{percentText(change.lasts_percent ?? 0).replace(" %", "")} of 100</strong>
          {!change.mends &&
            (change.missing_h ?? 0) >= 0.5 &&
            `, and is still under your reserve for ${hoursText(change.missing_h ?? 0)}`}
        </span>
        {/* What stands there while it is worked out belongs to the trip before. */}
        <Button disabled={behind} onClick={() => onPutIn(change)}>
          Apply
        </Button>
      </p>
    </div>
  );
}

interface OffersProps {
  offers: readonly Schemas["BoxOffer"][];
  onTake: (offer: Schemas["BoxOffer"]) => void;
}

/** The smallest box of each sort that lasts. */
function Offers({ offers, onTake }: OffersProps) {
  if (offers.length === 0) return <p>Tick what you run, and the boxes that would do stand here.</p>;
  return (
    <ul className="flex flex-col gap-3">
      {offers.map((offer) => (
        <li key={offer.text}>
          <p>
            <strong>
              {offer.enough ? "At least " : "Not even "}
              {offer.text}
            </strong>
            , which lasts in {Math.round(offer.lasts_percent)} of 100 tries and keeps{" "}
            {offer.floor_percent} % in reserve.
          </p>
          {offer.enough ? (
            <Button className="mt-1" onClick={() => onTake(offer)}>
              Take {offer.text}
            </Button>
          ) : (
            <p className="text-sm text-ash">
              Something has to charge it on the way, or less has to run.
            </p>
          )}
        </li>
      ))}
    </ul>
  );
}
