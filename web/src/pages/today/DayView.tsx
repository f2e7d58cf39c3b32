import { type ReactNode, useState } from "react";
import { type NewEntry, refusalIn, type Schemas } from "../../api/client";
import { localNow } from "../../away/keptDays";
import { OutboxList } from "../../away/OutboxList";
import { outbox, type TripMark } from "../../away/outbox";
import { useOutbox, withWaiting } from "../../away/useOutbox";
import type { LogIt } from "../../plan/Ticks";
import { withdraw } from "../../plan/withdraw";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { DayAsItIs } from "./DayAsItIs";
import { LevelNow } from "./LevelNow";
import { ReadingPad, type Told } from "./ReadingPad";
import { ThingRow } from "./ThingRow";

interface Props {
  trip: TripMark;
  day: Schemas["TodayReport"];
  floor: number;
  /** What the level that was known is called; it is of now unless it is old. */
  levelIs?: string;
  /** Above all: whether the server answers, and how old this is. */
  banner?: ReactNode;
  /** Below the lists. */
  children?: ReactNode;
  /** Called when an entry has been sent. */
  onSent?: () => Promise<unknown>;
}

/** The day with its things and the pad for readings, with the server in reach or without. */
export function DayView(props: Props) {
  const { trip, day: known, floor, levelIs = "now", banner, children, onSent } = props;
  const habits = useHabits();
  const [told, setTold] = useState<Told | null>(null);
  const { waiting, elsewhere, against } = useOutbox(trip);
  const day = withWaiting(known, waiting);
  const over = day.things.filter((thing) => thing.state === "to_tick");
  const ahead = day.things.filter((thing) => thing.state !== "to_tick");

  const calm = day.safe || day.tonight === "over";

  const log: LogIt = async (entry, says) => {
    const outcome = await outbox.write(trip, { note: "", ...entry } as NewEntry, says);
    if (outcome.how === "refused") {
      setTold({ text: outcome.why, bad: true });
    } else if (outcome.how === "waiting") {
      setTold({ text: `Kept on this device: ${says}. It is sent later.`, bad: false });
    } else {
      // Nobody waits for the day to be made anew: what is noted next must not be held up by it.
      const { text, worth } = outcome.entry ?? { text: says, worth: "" };
      const number = outcome.entry?.id;
      setTold({
        text: `Saved: ${text}. ${worth}`,
        bad: false,
        ...(number === undefined ? {} : { entry: number, takeBack: () => void clear([number]) }),
      });
      void onSent?.();
    }
    return outcome.how !== "refused";
  };

  async function clear(entries: readonly number[]) {
    try {
      await withdraw(trip.planId, entries);
      setTold({ text: "Taken back.", bad: false });
    } catch (error) {
      setTold({ text: refusalIn(error).problem.detail, bad: true });
    }
    void onSent?.();
  }
  const onClear = onSent && ((entries: readonly number[]) => void clear(entries));

  return (
    <>
      {banner}
      <div aria-live="polite" className="px-1 py-2">
        <h1
          className={`text-2xl leading-tight ${calm ? "" : "text-danger"}`}
          data-testid="headline"
        >
          {calm ? "" : "▲ "}
          {day.headline}
        </h1>
        <p className="text-ash">
          {day.day}, {clockText(localNow(known).slice(11, 16), habits)}. {day.rest}
        </p>
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_22rem]">
        <div className="flex flex-col gap-4">
          <OutboxList waiting={waiting} elsewhere={elsewhere} against={against} />
          <section className="plate px-4 py-3" aria-labelledby="todo">
            <h2 id="todo" className="text-lg">
              Still to do today
            </h2>
            {ahead.length === 0 ? (
              <p className="text-ash">
                {day.things.length === 0
                  ? "Nothing is planned for today. Use it as you like."
                  : "Nothing more is planned until then."}
              </p>
            ) : (
              <ol className="divide-y divide-line" data-testid="things">
                {ahead.map((thing) => (
                  <ThingRow
                    key={thing.key}
                    thing={thing}
                    planId={onSent && trip.planId}
                    onLog={log}
                    onClear={onClear}
                  />
                ))}
              </ol>
            )}
          </section>
          {over.length > 0 && (
            <section className="card" aria-labelledby="today-over">
              <h2 id="today-over" className="text-lg">
                How was today?
              </h2>
              <ol className="divide-y divide-line">
                {over.map((thing) => (
                  <ThingRow key={thing.key} thing={thing} onLog={log} onClear={onClear} />
                ))}
              </ol>
            </section>
          )}
          {day.yesterday.length > 0 && (
            <section className="card" aria-labelledby="yesterday">
              <h2 id="yesterday" className="text-lg">
                How was yesterday?
              </h2>
              <ol className="divide-y divide-line">
                {day.yesterday.map((thing) => (
                  <ThingRow key={thing.key} thing={thing} onLog={log} onClear={onClear} />
                ))}
              </ol>
            </section>
          )}
          {onSent && <DayAsItIs day={day} onLog={log} />}
          {children}
        </div>
        <aside className="flex flex-col gap-4">
          <LevelNow day={day} floor={floor} levelIs={levelIs} />
          <ReadingPad
            planId={trip.planId}
            day={day}
            told={told}
            onLog={log}
            onChanged={onSent && (() => void onSent())}
          />
        </aside>
      </div>
    </>
  );
}
