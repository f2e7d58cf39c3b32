import { type ReactNode, useState } from "react";
import type { Schemas } from "../../api/client";
import { localNow } from "../../away/keptDays";
import type { LogIt } from "../../plan/Ticks";
import { Button } from "../../ui/Button";

type Kind = "monitor_percent" | "rested_voltage" | "ah_in" | "ah_out";
type Day = Schemas["TodayReport"];

const KINDS: Record<
  Kind,
  { name: string; text: string; unit: string; last: (day: Day) => number | null }
> = {
  monitor_percent: {
    name: "monitor %",
    text: "monitor",
    unit: "%",
    last: (day) => day.last_percent,
  },
  rested_voltage: { name: "rested V", text: "rested", unit: "V", last: (day) => day.last_volts },
  ah_in: { name: "Ah in", text: "counted in", unit: "Ah", last: (day) => day.last_ah_in },
  ah_out: { name: "Ah out", text: "counted out", unit: "Ah", last: (day) => day.last_ah_out },
};
const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", "⌫"] as const;

interface Props {
  day: Day;
  onLog: LogIt;
  /** Called when what was typed has been saved. */
  onSaved?: () => void;
  /** It stands in a sheet that says what it is. */
  titled?: boolean;
  /** What stands below its keys. */
  children?: ReactNode;
}

/** A number pad for a thumb in gloves. The last value stands there as a hint, and is not entered. */
export function ReadingPad({ day, onLog, onSaved, titled = false, children }: Props) {
  const [kind, setKind] = useState<Kind>("monitor_percent");
  const last = KINDS[kind].last(day);
  const [typed, setTyped] = useState("");
  function press(key: string) {
    if (key === "⌫") setTyped(typed.slice(0, -1));
    else if (typed.length < 6) setTyped(typed + key);
  }
  async function note() {
    const { text, unit } = KINDS[kind];
    const value = Number(typed);
    const at = localNow(day);
    const entry =
      kind === "ah_in" || kind === "ah_out"
        ? { kind: "counters" as const, at, [kind]: value }
        : { kind, at, value };
    const noted = await onLog(entry, `${text} ${typed} ${unit}`);
    // What was typed meanwhile stays, and so does what was refused.
    if (!noted) return;
    setTyped((now) => (now === typed ? "" : now));
    onSaved?.();
  }
  return (
    <section className="print:hidden" aria-labelledby="read">
      <h2 id="read" className={titled ? "sr-only" : "text-lg"}>
        Log a reading
      </h2>
      <div className="segments mt-1 flex-wrap" role="group" aria-label="What is read">
        {(Object.keys(KINDS) as Kind[]).map((one) => (
          <Button
            look="bare"
            key={one}
            className="segment min-h-11 px-3"
            aria-pressed={kind === one}
            data-state={kind === one ? "on" : "off"}
            onClick={() => {
              setKind(one);
              setTyped("");
            }}
          >
            {KINDS[one].name}
          </Button>
        ))}
      </div>
      <div className="mt-2 rounded-lg border-2 border-edge bg-paper px-3 py-2 text-right">
        <output className="block text-3xl font-semibold" aria-label="The figure">
          {typed || "–"} {KINDS[kind].unit}
        </output>
        {last != null && (
          <span className="text-sm text-ash">{`last time ${last} ${KINDS[kind].unit}`}</span>
        )}
      </div>
      <div className="mt-2 grid grid-cols-3 gap-2">
        {KEYS.map((key) => (
          <Button
            key={key}
            className="min-h-14 text-xl"
            aria-label={key === "⌫" ? "Take the last figure back" : key}
            onClick={() => press(key)}
          >
            {key}
          </Button>
        ))}
      </div>
      <Button
        look="main"
        className="mt-2 min-h-14 w-full text-lg"
        disabled={!typed || Number.isNaN(Number(typed))}
        onClick={() => void note()}
      >
        Save
      </Button>
      {children}
    </section>
  );
}
