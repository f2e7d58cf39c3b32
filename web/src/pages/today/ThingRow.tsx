import { type PointerEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { isOpen, MARKS, wentWords } from "../../plan/howWent";
import { doneOf, type LogIt, Ticks } from "../../plan/Ticks";
import { patternOf, sourceOfBlock } from "../../sources";
import { Button } from "../../ui/Button";

interface Props {
  thing: Schemas["TodayReport"]["things"][number];
  /** Whose trip it is; absent where its plan cannot be changed now. */
  planId?: number | undefined;
  onLog: LogIt;
  /** Takes back what was said of it; absent while the server is away. */
  onClear?: ((entries: readonly number[]) => void) | undefined;
}

/** One thing to do: what it is worth, and how it went, or that it will not be. */
export function ThingRow({ thing, planId, onLog, onClear }: Props) {
  const go = useNavigate();
  const [choosing, setChoosing] = useState(false);
  const look = thing.kind === "use" ? null : sourceOfBlock(thing.kind);
  const went = wentWords(thing);
  const mark = thing.state === "to_tick" ? "" : MARKS[thing.state];
  const open = useSwipe(() => setChoosing(true));
  const began = thing.state !== "ahead" && isOpen(thing.state);
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-2 py-2.5" {...open}>
      <svg width="10" height="34" aria-hidden="true" className="shrink-0">
        <rect
          width="10"
          height="34"
          rx="4"
          fill={thing.kind === "use" ? "var(--color-use)" : patternOf(look?.key ?? "sun")}
        />
      </svg>
      <div className="min-w-0 flex-1 leading-snug sm:min-w-44">
        <strong>{thing.text}</strong>
        <p className="text-ash">
          {thing.worth_text}
          {went && <span className="ml-2 font-semibold text-ink">{`${mark} ${went}`.trim()}</span>}
        </p>
      </div>
      {/* On a phone one press says that it was done; all else is behind the row. */}
      <span className="flex gap-2 sm:hidden print:hidden">
        {began && (
          <Button
            className="size-11 border-2 px-0 text-lg"
            aria-label={`Done: ${thing.text}`}
            onClick={() => void onLog(doneOf(thing), `${thing.text}: done`)}
          >
            ✓
          </Button>
        )}
        <Button
          look="bare"
          className="size-11 rounded-lg text-xl text-ash"
          aria-label={`More about ${thing.text}`}
          aria-expanded={choosing}
          onClick={() => setChoosing(!choosing)}
        >
          ⋯
        </Button>
      </span>
      <div className={`${choosing ? "" : "max-sm:hidden"} max-sm:w-full sm:contents`}>
        <Ticks
          thing={thing}
          onLog={onLog}
          onClear={onClear}
          onOtherHours={planId === undefined ? undefined : () => void go(hoursOf(planId, thing))}
        />
      </div>
    </li>
  );
}

const SWIPE_PX = 50;

/** A finger that goes sideways over a row opens what can be said of it. */
function useSwipe(open: () => void) {
  const from = useRef<{ x: number; y: number } | null>(null);
  return {
    style: { touchAction: "pan-y" },
    onPointerDown: (event: PointerEvent) => {
      from.current = event.pointerType === "touch" ? { x: event.clientX, y: event.clientY } : null;
    },
    onPointerUp: (event: PointerEvent) => {
      const start = from.current;
      from.current = null;
      if (!start) return;
      const dx = Math.abs(event.clientX - start.x);
      if (dx > SWIPE_PX && dx > 2 * Math.abs(event.clientY - start.y)) open();
    },
  };
}

/** Where the hours of what is ahead are set. */
const hoursOf = (planId: number, thing: Props["thing"]) =>
  thing.kind === "use" ? `/plan/${planId}/use` : `/plan/${planId}/trip?block=${thing.key}`;
