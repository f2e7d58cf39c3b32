import { useState } from "react";
import type { NewEntry, Schemas } from "../../api/client";
import { patternOf, sourceOfBlock } from "../../sources";
import { Button } from "../../ui/Button";

type Thing = Schemas["TodayReport"]["things"][number];

const SAID: Record<Thing["state"], string> = {
  ahead: "",
  now: "now",
  to_tick: "did you?",
  did: "✓ done",
  part: "partly done",
  changed: "done, at other hours",
  did_not: "skipped",
};

/**
 * Writes an entry down; `says` is how it is told while it waits for the server. False where it was
 * refused: then nothing was kept of it.
 */
export type LogIt = (
  entry: Partial<NewEntry> & Pick<NewEntry, "kind" | "at">,
  says: string,
) => Promise<boolean>;

interface Props {
  thing: Thing;
  onLog: LogIt;
  /** Takes back what was said of it; absent while the server is away. */
  onClear?: ((entries: readonly number[]) => void) | undefined;
}

/** A moment of the trip's own clock, as the log takes it. */
const local = (moment: string) => moment.slice(0, 16);

/** One thing to do: what it is worth, and how it went, or that it will not be. */
export function ThingRow({ thing, onLog, onClear }: Props) {
  const [part, setPart] = useState<string | null>(null);
  const look = thing.kind === "use" ? null : sourceOfBlock(thing.kind);
  const didNot = thing.did_not;
  const whose = thing.appliance ? { appliance: thing.appliance } : {};
  const open = SAID[thing.state] === "" || thing.state === "now" || thing.state === "to_tick";
  // Of what has not begun nobody can say how it went: only that it will not be.
  const begun = thing.state !== "ahead";
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-2 py-3">
      <svg width="14" height="34" aria-hidden="true" className="shrink-0">
        <rect
          width="14"
          height="34"
          rx="4"
          fill={thing.kind === "use" ? "var(--color-use)" : patternOf(look?.key ?? "sun")}
        />
      </svg>
      <div className="min-w-44 flex-1 leading-snug">
        <strong className="text-lg">{thing.text}</strong>
        <p className="text-ash">
          {thing.worth_text}
          {SAID[thing.state] && (
            <span className="ml-2 font-semibold text-ink">
              {SAID[thing.state]}
              {thing.went && `, ${thing.went}`}
              {thing.by && ` (${thing.by})`}
            </span>
          )}
        </p>
      </div>
      {open && (
        <span className="flex flex-wrap gap-2 print:hidden">
          {begun && (
            <>
              <Button
                className="min-h-11 px-4"
                onClick={() =>
                  void onLog(
                    { kind: thing.did, at: local(thing.at), until: local(thing.until), ...whose },
                    `${thing.text}: done`,
                  )
                }
              >
                Done
              </Button>
              <Button
                className="min-h-11 px-4"
                onClick={() => setPart(part === null ? local(thing.until) : null)}
              >
                Partly
              </Button>
            </>
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
              {begun ? "Skipped" : "Not today"}
            </Button>
          )}
        </span>
      )}
      {!open && onClear && thing.entries?.length > 0 && (
        <Button
          className="min-h-11 px-4 print:hidden"
          aria-label={`Clear what was said of ${thing.text}`}
          onClick={() => onClear(thing.entries)}
        >
          Clear
        </Button>
      )}
      {part !== null && (
        <form
          className="flex w-full flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            // Of a use the rest of its time is written down: it was off by then.
            const entry =
              thing.kind === "use"
                ? { kind: "skipped" as const, at: part, until: local(thing.until), ...whose }
                : { kind: thing.did, at: local(thing.at), until: part };
            void onLog(entry, `${thing.text}: until ${part.slice(11)}`).then(() => setPart(null));
          }}
        >
          <label className="text-sm text-ash">
            until
            <input
              type="datetime-local"
              className="field"
              value={part}
              onChange={(event) => setPart(event.target.value)}
            />
          </label>
          <Button type="submit" className="min-h-11">
            Save
          </Button>
        </form>
      )}
    </li>
  );
}
