import { useEffect, useId, useState } from "react";

interface Props {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  optional?: boolean;
  most?: number;
}

/** A line of text; an empty one is refused unless it is optional. */
export function TextField({ label, value, onCommit, optional = false, most = 80 }: Props) {
  const [text, setText] = useState(value);
  const id = useId();
  const empty = !optional && text.trim() === "";

  useEffect(() => setText(value), [value]);

  function finish() {
    if (!empty && text.trim() !== value) onCommit(text.trim());
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
        maxLength={most}
        autoComplete="off"
        aria-invalid={empty}
        onChange={(event) => setText(event.target.value)}
        onBlur={finish}
        onKeyDown={(event) => {
          if (event.key === "Enter") finish();
        }}
      />
      {empty && (
        <p role="alert" className="mt-1 text-sm text-danger">
          This is empty. Write 1 to {most} characters. The plan stays as it was.
        </p>
      )}
    </div>
  );
}
