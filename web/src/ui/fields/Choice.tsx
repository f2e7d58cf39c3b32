import { ToggleGroup } from "radix-ui";

interface Props<T extends string> {
  label: string;
  /** None chosen yet: null. */
  value: T | null;
  options: readonly { value: T; text: string; title?: string }[];
  onChange: (value: T) => void;
  showLabel?: boolean;
  oneLine?: boolean;
}

/** One of a few, all in sight. */
export function Choice<T extends string>(props: Props<T>) {
  const { label, value, options, onChange, showLabel, oneLine } = props;
  return (
    <div>
      {showLabel && <div className="mb-0.5 text-sm text-ash">{label}</div>}
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        className={`segments ${oneLine ? "" : "flex-wrap"}`}
        value={value ?? ""}
        onValueChange={(next) => {
          if (next) onChange(next as T);
        }}
      >
        {options.map((option) => (
          <ToggleGroup.Item
            key={option.value}
            value={option.value}
            title={option.title}
            className="segment"
          >
            {option.text}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
