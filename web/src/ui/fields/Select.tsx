import { useId } from "react";

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange: (value: T) => void;
  /** Its label is for screen readers alone. */
  hidden?: boolean;
}

/** One of many: the system's own list, which suits a thumb. */
export function Select<T extends string>(props: Props<T>) {
  const { label, value, options, onChange, hidden } = props;
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className={hidden ? "sr-only" : "mb-0.5 block text-sm text-ash"}>
        {label}
      </label>
      <select
        id={id}
        className="field"
        value={value}
        onChange={(event) => onChange(event.target.value as T)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.text}
          </option>
        ))}
      </select>
    </div>
  );
}
