import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { MARKS, wentWords } from "../../plan/howWent";
import { type LogIt, Ticks } from "../../plan/Ticks";
import { patternOf, sourceOfBlock } from "../../sources";

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
  const look = thing.kind === "use" ? null : sourceOfBlock(thing.kind);
  const went = wentWords(thing);
  const mark = thing.state === "to_tick" ? "" : MARKS[thing.state];
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
          {went && <span className="ml-2 font-semibold text-ink">{`${mark} ${went}`.trim()}</span>}
        </p>
      </div>
      <Ticks
        thing={thing}
        onLog={onLog}
        onClear={onClear}
        onOtherHours={planId === undefined ? undefined : () => void go(hoursOf(planId, thing))}
      />
    </li>
  );
}

/** Where the hours of what is ahead are set. */
const hoursOf = (planId: number, thing: Props["thing"]) =>
  thing.kind === "use" ? `/plan/${planId}/use` : `/plan/${planId}/trip?block=${thing.key}`;
