import { useState } from "react";
import type { NewEntry, Schemas } from "../api/client";
import { Button } from "../ui/Button";
import { isOpen } from "./howWent";

type Thing = Schemas["TodayReport"]["things"][number];
/** What is ticked: its hours as planned, how it went, and which entries say so. */
export type Ticked = Pick<
  Thing,
  "kind" | "appliance" | "text" | "at" | "until" | "state" | "entries" | "did" | "did_not"
>;

/**
 * Writes an entry down; `says` is how it is told while it waits for the server. False where it was
 * refused: then nothing was kept of it.
 */
export type LogIt = (
  entry: Partial<NewEntry> & Pick<NewEntry, "kind" | "at">,
  says: string,
) => Promise<boolean>;

interface Props {
  thing: Ticked;
  onLog: LogIt;
  /** Takes back what was said of it; absent while the server is away. */
  onClear?: ((entries: readonly number[]) => void) | undefined;
  /** What is pressed of what has not begun and will not be. */
  notAhead?: string;
  /** Leads to where the hours of what is ahead are set; absent where that is here. */
  onOtherHours?: (() => void) | undefined;
}

/** A moment of the trip's own clock, as the log takes it. */
const local = (moment: string) => moment.slice(0, 16);

/** The entry that says that a planned thing was done, in the hours that were planned. */
export function doneOf(thing: Ticked) {
  return {
    kind: thing.did,
    at: local(thing.at),
    until: local(thing.until),
    ...(thing.appliance ? { appliance: thing.appliance } : {}),
  };
}

/** The buttons that say how a planned thing went, or that it will not be; and take that back. */
export function Ticks({ thing, onLog, onClear, notAhead = "Not today", onOtherHours }: Props) {
  const [part, setPart] = useState<{ from: string; until: string } | null>(null);
  const didNot = thing.did_not;
  const whose = thing.appliance ? { appliance: thing.appliance } : {};
  // Of what has not begun nobody can say how it went: only that it will not be.
  const begun = thing.state !== "ahead";
  if (!isOpen(thing.state)) {
    return onClear && thing.entries?.length > 0 ? (
      <Button
        className="min-h-11 px-4 print:hidden"
        aria-label={`Clear what was said of ${thing.text}`}
        onClick={() => onClear(thing.entries)}
      >
        Clear
      </Button>
    ) : null;
  }
  return (
    <>
      <span className="flex flex-wrap gap-2 print:hidden">
        {begun && (
          <>
            <Button
              className="min-h-11 px-4"
              onClick={() => void onLog(doneOf(thing), `${thing.text}: done`)}
            >
              Done
            </Button>
            <Button
              className="min-h-11 px-4"
              onClick={() =>
                setPart(part ? null : { from: local(thing.at), until: local(thing.until) })
              }
            >
              Other hours
            </Button>
          </>
        )}
        {!begun && onOtherHours && (
          <Button className="min-h-11 px-4" onClick={onOtherHours}>
            Other hours
          </Button>
        )}
        {didNot && (
          <Button
            className="min-h-11 px-4"
            onClick={() =>
              void onLog(
                {
                  kind: didNot,
                  at: local(thing.at),
                  ...(thing.kind === "panel_out" || thing.kind === "use"
                    ? { until: local(thing.until) }
                    : {}),
                  ...whose,
                },
                `${thing.text}: ${begun ? "skipped" : "not today"}`,
              )
            }
          >
            {begun ? "Skipped" : notAhead}
          </Button>
        )}
      </span>
      {part !== null && (
        <form
          className="flex w-full flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            // Of a use the rest of its time is written down: it was off by then.
            const entry =
              thing.kind === "use"
                ? { kind: "skipped" as const, at: part.until, until: local(thing.until), ...whose }
                : { kind: thing.did, at: part.from, until: part.until };
            void onLog(entry, `${thing.text}: until ${part.until.slice(11)}`).then(() =>
              setPart(null),
            );
          }}
        >
          {thing.kind !== "use" && (
            <label className="text-sm text-ash">
              from
              <input
                type="datetime-local"
                className="field"
                value={part.from}
                onChange={(event) => setPart({ ...part, from: event.target.value })}
              />
            </label>
          )}
          <label className="text-sm text-ash">
            until
            <input
              type="datetime-local"
              className="field"
              value={part.until}
              onChange={(event) => setPart({ ...part, until: event.target.value })}
            />
          </label>
          <Button type="submit" className="min-h-11">
            Save
          </Button>
        </form>
      )}
    </>
  );
}
