import { useEffect, useId, useRef, useState } from "react";
import { shownUnit } from "../../quantities/habits";
import { type LimitKey, limitOf, parseNumber } from "../../quantities/parse";
import { plainFigure, shortFigure } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";

interface Props {
  label: string;
  value: number | null | undefined;
  limit: LimitKey;
  unit?: string;
  hint?: string;
  /** Scale between what is typed and what is stored, for a second unit of the same thing. */
  per?: number;
  onCommit: (value: number) => void;
  /** What holds when nothing is typed; with it the field may be left empty. */
  empty?: string;
  onClear?: () => void;
}

/**
 * A number in its unit. Nonsense is refused where it is typed, with value, limit and remedy, and
 * never leaves the field; Escape puts the old figure back.
 */
export function NumberField(props: Props) {
  const { label, value, limit, unit, hint, per = 1, onCommit, empty, onClear } = props;
  const habits = useHabits();
  const bounds = limitOf(limit);
  const habit = shownUnit(unit ?? bounds.unit, habits);
  const name = habit.unit;
  const whole = per === 1 && habit.to(1) === 1;
  const toShown = (stored: number) => habit.to(stored * per);
  // What was typed is shown whole; only a derived second unit is shortened.
  const shown = value == null ? "" : whole ? plainFigure(value) : shortFigure(toShown(value));
  const [text, setText] = useState(shown);
  const [refusal, setRefusal] = useState<string | null>(null);
  const editing = useRef(false);
  const id = useId();

  useEffect(() => {
    if (!editing.current) setText(shown);
  }, [shown]);

  function read(next: string): number | null {
    if (empty !== undefined && next.trim() === "") {
      setRefusal(null);
      return null;
    }
    // Thicker copper has a smaller number, so the ends of the range may change places.
    const ends = whole ? [bounds.least, bounds.most] : [bounds.least, bounds.most].map(toShown);
    const scaled = { ...bounds, least: Math.min(...ends), most: Math.max(...ends), unit: name };
    const parsed = parseNumber(name === "AWG" ? strokeless(next) : next, scaled);
    setRefusal(parsed.ok ? null : parsed.refusal);
    return parsed.ok ? habit.from(parsed.value) / per : null;
  }

  function finish() {
    editing.current = false;
    const next = read(text);
    if (empty !== undefined && text.trim() === "") {
      if (shown !== "") onClear?.();
      return;
    }
    if (next !== null && text.trim() !== shown) onCommit(next);
    else if (next !== null) setText(shown);
  }

  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        {label}
      </label>
      <div className="flex items-center gap-1.5">
        <input
          id={id}
          className="field text-right"
          inputMode="decimal"
          autoComplete="off"
          value={text}
          placeholder={empty}
          aria-invalid={refusal !== null}
          aria-describedby={refusal ? `${id}-says` : undefined}
          onFocus={(event) => {
            editing.current = true;
            event.target.select();
          }}
          onChange={(event) => {
            setText(event.target.value);
            read(event.target.value);
          }}
          onBlur={finish}
          onKeyDown={(event) => {
            if (event.key === "Enter") finish();
            if (event.key === "Escape") {
              setText(shown);
              setRefusal(null);
              event.stopPropagation();
            }
          }}
        />
        <span className="shrink-0 text-sm text-ash">{name}</span>
      </div>
      {refusal && (
        <p id={`${id}-says`} role="alert" className="mt-1 text-sm text-danger">
          {refusal} The plan stays as it was.
        </p>
      )}
      {hint && !refusal && <p className="mt-0.5 text-xs text-ash">{hint}</p>}
    </div>
  );
}

/** 1/0 is number 0, 2/0 is -1. */
function strokeless(text: string): string {
  const match = /^\s*([1-4])\/0\s*$/.exec(text);
  return match ? String(1 - Number(match[1])) : text;
}
