import { useEffect, useId, useRef, useState } from "react";
import { parseClock } from "../../quantities/clock";
import { clockText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";

interface Props {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  /** A further rule: the reason why this time cannot be, or null. */
  refuse?: (value: string) => string | null;
}

/** A time of day, typed as people type it. */
export function ClockField({ label, value, onCommit, refuse }: Props) {
  const habits = useHabits();
  const shown = clockText(value, habits);
  const [text, setText] = useState(shown);
  const [refusal, setRefusal] = useState<string | null>(null);
  const editing = useRef(false);
  const id = useId();

  useEffect(() => {
    if (!editing.current) setText(shown);
  }, [shown]);

  function finish() {
    editing.current = false;
    const parsed = parseClock(text);
    const reason = parsed.ok ? (refuse?.(parsed.value) ?? null) : parsed.refusal;
    setRefusal(reason);
    if (!parsed.ok || reason !== null) return;
    setText(clockText(parsed.value, habits));
    if (parsed.value !== value) onCommit(parsed.value);
  }

  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        {label}
      </label>
      <input
        id={id}
        className="field"
        value={text}
        autoComplete="off"
        aria-invalid={refusal !== null}
        aria-describedby={refusal ? `${id}-says` : undefined}
        onFocus={() => {
          editing.current = true;
        }}
        onChange={(event) => setText(event.target.value)}
        onBlur={finish}
        onKeyDown={(event) => {
          if (event.key === "Enter") finish();
        }}
      />
      {refusal && (
        <p id={`${id}-says`} role="alert" className="mt-1 text-sm text-danger">
          {refusal} The plan stays as it was.
        </p>
      )}
    </div>
  );
}
