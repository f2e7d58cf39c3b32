import type { LimitKey } from "../../quantities/parse";
import { Choice } from "./Choice";
import { NumberField } from "./NumberField";
import { SliderField } from "./SliderField";
import { Switch } from "./Switch";

/** How one field of a part is shown. A number with `empty` may be left out of the document. */
export type Spec<T> =
  | {
      kind: "number";
      key: keyof T & string;
      text: string;
      unit?: string;
      hint?: string;
      empty?: string;
    }
  | { kind: "slider"; key: keyof T & string; text: string; from: number; to: number; step: number }
  | { kind: "flag"; key: keyof T & string; text: string; hint?: string }
  | {
      kind: "choice";
      key: keyof T & string;
      text: string;
      options: readonly { value: string; text: string; title?: string }[];
    };

interface Props<T> {
  /** The model's name in the document's schema, for its limits. */
  model: string;
  part: T;
  specs: readonly Spec<T>[];
  onChange: (next: T, text: string) => void;
  onPreview?: (next: T) => void;
}

/** The fields of a part: numbers two abreast, what is wider on a line of its own. */
export function Fields<T extends object>({ model, part, specs, onChange, onPreview }: Props<T>) {
  return (
    <div className="grid grid-cols-2 items-start gap-3">
      {specs.map((spec) => (
        <div key={spec.key} className={spec.kind === "number" ? "min-w-0" : "col-span-2 min-w-0"}>
          <Field model={model} part={part} spec={spec} onChange={onChange} onPreview={onPreview} />
        </div>
      ))}
    </div>
  );
}

interface FieldProps<T> extends Omit<Props<T>, "specs"> {
  spec: Spec<T>;
}

function Field<T extends object>({ model, part, spec, onChange, onPreview }: FieldProps<T>) {
  const value: unknown = part[spec.key];
  const limit = `${model}.${spec.key}` as LimitKey;
  const set = (next: unknown) => onChange({ ...part, [spec.key]: next }, spec.text);
  switch (spec.kind) {
    case "number":
      return (
        <NumberField
          label={spec.text}
          value={value as number | null | undefined}
          limit={limit}
          unit={spec.unit}
          hint={spec.hint}
          empty={spec.empty}
          onClear={() => set(null)}
          onCommit={set}
        />
      );
    case "slider":
      return (
        <SliderField
          label={spec.text}
          value={value as number}
          limit={limit}
          from={spec.from}
          to={spec.to}
          step={spec.step}
          onPreview={(next) => onPreview?.({ ...part, [spec.key]: next })}
          onCommit={set}
        />
      );
    case "flag":
      return <Switch label={spec.text} hint={spec.hint} checked={value === true} onChange={set} />;
    case "choice":
      return (
        <Choice
          label={spec.text}
          showLabel
          value={String(value)}
          options={spec.options}
          onChange={set}
        />
      );
  }
}
