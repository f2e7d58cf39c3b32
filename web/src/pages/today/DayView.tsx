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
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { useNarrow } from "../../ui/useNarrow";
import { AnchorButtons } from "./AnchorButtons";
import { DayAsItIs } from "./DayAsItIs";
import { LevelNow } from "./LevelNow";
import { ReadingPad } from "./ReadingPad";
import { ThingRow } from "./ThingRow";
import { type Told, WhatBecame } from "./WhatBecame";

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
  const [pad, setPad] = useState(false);
  const narrow = useNarrow();
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

  const onChanged = onSent && (() => void onSent());
  const became = (onAgain: () => void) => (
    <WhatBecame
      planId={trip.planId}
      day={day}
      told={told}
      onChanged={onChanged}
      onAgain={onAgain}
    />
  );
  const todo = (
    <section aria-labelledby="todo">
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
  );

  return (
    <>
      {banner}
      <div className="grid items-start gap-x-6 gap-y-3 pt-3 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="flex min-w-0 flex-col gap-3">
          <div className="plate px-4 pt-3 pb-2">
            <LevelNow day={day} floor={floor} levelIs={levelIs} />
            <div aria-live="polite" className="mt-2 border-t border-line pt-2">
              <h1 className={`answer ${calm ? "" : "text-danger"}`} data-testid="headline">
                {calm ? "" : "▲ "}
                {day.headline}
              </h1>
              <p className="facts">
                {day.day}, {clockText(localNow(known).slice(11, 16), habits)}. {day.rest}
              </p>
            </div>
            {narrow && (told || day.question) && (
              <div className="mt-2 border-t border-line pt-2">{became(() => setPad(true))}</div>
            )}
          </div>
          <OutboxList waiting={waiting} elsewhere={elsewhere} against={against} />
          <div className="plate px-4 py-2">{todo}</div>
          {onSent && <DayAsItIs day={day} onLog={log} />}
          <Asked title="How was today?" things={over} onLog={log} onClear={onClear} open />
          <Asked title="How was yesterday?" things={day.yesterday} onLog={log} onClear={onClear} />
          {children}
        </div>
        {!narrow && (
          <aside className="plate px-4 py-3">
            <ReadingPad day={day} onLog={log}>
              {became(() => undefined)}
              <AnchorButtons day={day} onLog={log} />
            </ReadingPad>
          </aside>
        )}
      </div>
      {narrow && (
        <div className={`thumb-bar print:hidden ${onSent ? "above-pages" : ""}`}>
          <Button look="main" className="min-h-12 flex-[1.6]" onClick={() => setPad(true)}>
            Log a reading
          </Button>
          <AnchorButtons day={day} onLog={log} bar />
        </div>
      )}
      {narrow && (
        <Dialog title="Log a reading" open={pad} onOpenChange={setPad}>
          <ReadingPad day={day} onLog={log} onSaved={() => setPad(false)} titled>
            {told?.bad && (
              <p role="alert" className="mt-2 text-danger">
                {told.text}
              </p>
            )}
          </ReadingPad>
        </Dialog>
      )}
    </>
  );
}

interface AskedProps {
  title: string;
  things: Schemas["TodayReport"]["things"];
  onLog: LogIt;
  onClear: ((entries: readonly number[]) => void) | undefined;
  /** What was asked yesterday folds away. */
  open?: boolean;
}

/** Things whose hours are over, and of which nobody said how they went. */
function Asked({ title, things, onLog, onClear, open = false }: AskedProps) {
  if (things.length === 0) return null;
  return (
    <details className="card" aria-label={title} open={open}>
      <summary className="cursor-pointer py-1 font-head font-semibold">
        {title}{" "}
        <span className="font-body font-normal text-ash">
          {things.length} {things.length === 1 ? "thing" : "things"} to say
        </span>
      </summary>
      <ol className="divide-y divide-line">
        {things.map((thing) => (
          <ThingRow key={thing.key} thing={thing} onLog={onLog} onClear={onClear} />
        ))}
      </ol>
    </details>
  );
}
