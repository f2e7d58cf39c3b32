import { useEffect, useId, useRef, useState } from "react";
import { type LimitKey, limitOf, parseNumber } from "../quantities/parse";
import { plainFigure, shortFigure } from "../quantities/units";

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
  // What was typed is shown whole; only a derived second unit is shortened.
  const shown = value == null ? "" : per === 1 ? plainFigure(value) : shortFigure(value * per);
  const [text, setText] = useState(shown);
  const [says, setSays] = useState<string | null>(null);
  const editing = useRef(false);
  const id = useId();
  const bounds = limitOf(limit);
  const name = unit ?? bounds.unit.replace(/ at .*/, "");

  useEffect(() => {
    if (!editing.current) setText(shown);
  }, [shown]);

  function read(next: string): number | null {
    if (empty !== undefined && next.trim() === "") {
      setSays(null);
      return null;
    }
    const scaled = { ...bounds, least: bounds.least * per, most: bounds.most * per, unit: name };
    const parsed = parseNumber(next, scaled);
    setSays(parsed.ok ? null : parsed.says);
    return parsed.ok ? parsed.value / per : null;
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
          aria-invalid={says !== null}
          aria-describedby={says ? `${id}-says` : undefined}
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
              setSays(null);
              event.stopPropagation();
            }
          }}
        />
        <span className="shrink-0 text-sm text-ash">{name}</span>
      </div>
      {says && (
        <p id={`${id}-says`} role="alert" className="mt-1 text-sm text-danger">
          {says} The plan stays as it was.
        </p>
      )}
      {hint && !says && <p className="mt-0.5 text-xs text-ash">{hint}</p>}
    </div>
  );
}
