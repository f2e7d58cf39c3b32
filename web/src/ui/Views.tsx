import { ToggleGroup } from "radix-ui";

interface Props<V extends string> {
  label: string;
  value: V;
  views: readonly { value: V; text: string }[];
  onChange: (view: V) => void;
}

/** The views of a page, as tabs under the header's line. */
export function Views<V extends string>({ label, value, views, onChange }: Props<V>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      className="tabs"
      value={value}
      onValueChange={(next) => {
        if (next) onChange(next as V);
      }}
    >
      {views.map((view) => (
        <ToggleGroup.Item key={view.value} value={view.value} className="tab">
          {view.text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
