import { useState } from "react";
import type { Schemas } from "../../api/client";
import { localNow } from "../../away/keptDays";
import { Button } from "../../ui/Button";
import type { LogIt } from "./ThingRow";

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
  day: Schemas["TodayReport"];
  told: { text: string; bad: boolean } | null;
  onLog: LogIt;
}

/** A number pad for a thumb in gloves: the last value stands there, one press notes it. */
export function ReadingPad({ day, told, onLog }: Props) {
  const [kind, setKind] = useState<Kind>("monitor_percent");
  const last = KINDS[kind].last(day);
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? (last == null ? "" : String(last));
  function press(key: string) {
    if (key === "⌫") setTyped(shown.slice(0, -1));
    else if (shown.length < 6 || typed === null) setTyped((typed ?? "") + key);
  }
  async function note() {
    const { text, unit } = KINDS[kind];
    const value = Number(shown);
    const at = localNow(day);
    const entry =
      kind === "ah_in" || kind === "ah_out"
        ? { kind: "counters" as const, at, [kind]: value }
        : { kind, at, value };
    const noted = await onLog(entry, `${text} ${shown} ${unit}`);
    // What was typed meanwhile stays, and so does what was refused.
    if (noted) setTyped((now) => (now === typed ? null : now));
  }
  return (
    <section className="plate px-4 py-3 print:hidden" aria-labelledby="read">
      <h2 id="read" className="text-lg">
        What do you read?
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
              setTyped(null);
            }}
          >
            {KINDS[one].name}
          </Button>
        ))}
      </div>
      <output
        className={`mt-2 block rounded-lg border-2 border-edge bg-paper px-3 py-2 text-right text-3xl font-semibold ${typed === null ? "text-ash" : ""}`}
        aria-label="The figure"
      >
        {shown || "–"} {KINDS[kind].unit}
      </output>
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
        disabled={!shown || Number.isNaN(Number(shown))}
        onClick={() => void note()}
      >
        Note it
      </Button>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Button
          className="min-h-12"
          onClick={() => void onLog({ kind: "full", at: localNow(day) }, "it is full")}
        >
          It is full
        </Button>
        <Button
          className="min-h-12"
          onClick={() => void onLog({ kind: "cut_out", at: localNow(day) }, "it cut out")}
        >
          It cut out
        </Button>
      </div>
      {told && (
        <p role={told.bad ? "alert" : "status"} className={`mt-2 ${told.bad ? "text-danger" : ""}`}>
          {told.text}
        </p>
      )}
    </section>
  );
}
