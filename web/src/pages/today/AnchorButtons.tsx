import { useState } from "react";
import type { Schemas } from "../../api/client";
import { localNow } from "../../away/keptDays";
import type { LogIt } from "../../plan/Ticks";
import { Button } from "../../ui/Button";

type Anchor = "full" | "cut_out";
/** What each press makes of the level, in percent, and what is said of it. */
const ANCHORS: Record<
  Anchor,
  { name: string; short: string; level: number; does: string; says: string }
> = {
  full: { name: "It is full", short: "Full", level: 99, does: "sets 99 %", says: "it is full" },
  cut_out: {
    name: "Power went off",
    short: "Went off",
    level: 2,
    does: "sets 2 %",
    says: "power went off",
  },
};

interface Props {
  day: Schemas["TodayReport"];
  onLog: LogIt;
  /** In the bar of a phone, without what each does. */
  bar?: boolean;
}

/** The two presses that set the level outright. What contradicts the estimate is asked first. */
export function AnchorButtons({ day, onLog, bar = false }: Props) {
  const [asked, setAsked] = useState<Anchor | null>(null);
  const { low, high, middle } = day.level;
  function log(anchor: Anchor) {
    setAsked(null);
    void onLog({ kind: anchor, at: localNow(day) }, ANCHORS[anchor].says);
  }
  function press(anchor: Anchor) {
    const { level } = ANCHORS[anchor];
    if (level < low || level > high) setAsked(anchor);
    else log(anchor);
  }
  return (
    <div className={bar ? "contents" : "mt-4 border-t border-line pt-3"}>
      <div className={bar ? "contents" : "grid grid-cols-2 gap-2"}>
        {(Object.keys(ANCHORS) as Anchor[]).map((anchor) => (
          <Button
            key={anchor}
            className={bar ? "min-h-12 flex-1 px-2" : "min-h-12 flex-col gap-0 px-3 leading-tight"}
            aria-label={bar ? ANCHORS[anchor].name : undefined}
            onClick={() => press(anchor)}
          >
            {bar ? ANCHORS[anchor].short : ANCHORS[anchor].name}
            {!bar && <span className="block text-sm text-ash">{ANCHORS[anchor].does}</span>}
          </Button>
        ))}
      </div>
      {asked && (
        <div
          role="alertdialog"
          aria-label="Is that so?"
          className={bar ? "order-first w-full pb-1" : "mt-2"}
        >
          <p>
            {`The estimate is ${Math.round(middle)} %. ${ANCHORS[asked].name}: that sets it to ${ANCHORS[asked].level} %.`}
          </p>
          <div className="mt-1 flex flex-wrap gap-2">
            <Button className="min-h-11 px-3" onClick={() => log(asked)}>
              Yes, set {ANCHORS[asked].level} %
            </Button>
            <Button className="min-h-11 px-3" onClick={() => setAsked(null)}>
              Cancel
            </Button>
          </div>
        </div>
      )}
    </div>
  );
}
