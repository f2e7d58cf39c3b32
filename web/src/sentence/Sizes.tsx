import { useState } from "react";
import { Choice } from "../ui/fields/Choice";

interface Props {
  label: string;
  unit: string;
  sizes: readonly number[];
  value: number;
  most: number;
  onChange: (size: number) => void;
}

/** The usual sizes to press, and any other to type. */
export function Sizes({ label, unit, sizes, value, most, onChange }: Props) {
  const usual = sizes.includes(value);
  const [text, setText] = useState(usual ? "" : String(value));
  const typed = Number(text.replace(",", "."));
  const wrong = text.trim() !== "" && !(typed >= 1 && typed <= most);
  return (
    <div>
      <Choice
        label={label}
        showLabel
        value={String(value)}
        options={sizes.map((size) => ({ value: String(size), text: `${size} ${unit}` }))}
        onChange={(next) => {
          setText("");
          onChange(Number(next));
        }}
      />
      <label className="mt-1.5 flex items-center gap-2 text-sm text-ash">
        other
        <input
          className="field w-24 text-right"
          inputMode="decimal"
          autoComplete="off"
          aria-label={`${label}, another size`}
          aria-invalid={wrong}
          value={text}
          onChange={(event) => {
            const next = event.target.value;
            setText(next);
            const figure = Number(next.replace(",", "."));
            if (next.trim() && figure >= 1 && figure <= most) onChange(figure);
          }}
        />
        {unit}
      </label>
      {wrong && (
        <p role="alert" className="text-sm text-danger">
          {text} is not between 1 and {most} {unit}. The sentence stays as it was.
        </p>
      )}
    </div>
  );
}
