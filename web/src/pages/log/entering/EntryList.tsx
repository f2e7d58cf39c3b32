import type { LogEntry, Track } from "../../../api/client";
import { dayName } from "../../../quantities/clock";
import { clockText, type Habits } from "../../../quantities/habits";
import { percentText } from "../../../quantities/units";
import { useHabits } from "../../../quantities/useHabits";
import { Button } from "../../../ui/Button";

type Mark = Track["marks"][number];

interface Props {
  entries: readonly LogEntry[];
  marks: readonly Mark[];
  onCorrect: (entry: LogEntry) => void;
  onRemove: (entry: LogEntry) => void;
}

export function whenOf(entry: LogEntry, habits: Habits): string {
  const { at_local } = entry;
  return `${dayName(at_local.slice(0, 10))}, ${clockText(at_local.slice(11, 16), habits)}`;
}

/** Every entry with what it is worth and what became of it, the newest first. */
export function EntryList({ entries, marks, onCorrect, onRemove }: Props) {
  return (
    <ul className="mt-2">
      {entries.toReversed().map((entry) => (
        <Entry
          key={entry.id}
          entry={entry}
          marks={marks.filter((mark) => mark.entry === entry.id)}
          onCorrect={() => onCorrect(entry)}
          onRemove={() => onRemove(entry)}
        />
      ))}
    </ul>
  );
}

function Entry(props: {
  entry: LogEntry;
  marks: readonly Mark[];
  onCorrect: () => void;
  onRemove: () => void;
}) {
  const { entry, marks } = props;
  const habits = useHabits();
  const { low_percent: low, high_percent: high } = entry;
  const when = whenOf(entry, habits);
  const aside = marks.filter((mark) => mark.state === "aside");
  const used = marks.filter((mark) => mark.state !== "aside");
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-3 border-t border-line py-1.5 sm:grid-cols-[8.5rem_1fr_auto]">
      <strong className="font-head leading-9">{when}</strong>
      <div className="order-last col-span-2 sm:order-none sm:col-span-1">
        <details>
          <summary className="cursor-pointer leading-9">
            <span className="font-semibold">{entry.text}</span>
            {low != null && high != null && high - low > 1 && (
              <span>{`: level ${Math.round(low)} to ${Math.round(high)} %`}</span>
            )}
            {entry.planned_percent != null && low != null && (
              <span className="text-ash">{`, planned ${percentText(entry.planned_percent)}`}</span>
            )}
            {entry.note && <span className="text-ash"> · {entry.note}</span>}
          </summary>
          {used.map((mark) => (
            <p key={mark.text}>{mark.text}</p>
          ))}
          <p className="text-ash">{entry.worth}</p>
          <p className="text-ash">
            {entry.replaces == null ? "written" : "corrected"}{" "}
            {entry.written_at.slice(0, 16).replace("T", " ")} UTC {entry.written_by}
          </p>
        </details>
        {/* What was not used, or was another figure before, is news and not folded. */}
        {aside.map((mark) => (
          <p key={mark.text} className="font-semibold text-danger">
            {mark.text}
          </p>
        ))}
        {entry.was && <p className="text-ash">{`Before: ${entry.was}.`}</p>}
      </div>
      <div className="flex gap-1.5 self-start print:hidden">
        {entry.kind !== "ticked" && (
          <Button aria-label={`Correct the entry of ${when}`} onClick={props.onCorrect}>
            ✎
          </Button>
        )}
        <Button aria-label={`Delete the entry of ${when}`} onClick={props.onRemove}>
          ×
        </Button>
      </div>
    </li>
  );
}
