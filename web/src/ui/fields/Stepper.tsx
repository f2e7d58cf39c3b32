import { Button } from "../Button";

interface Props {
  label: string;
  value: number;
  least: number;
  most: number;
  text?: string;
  onChange: (next: number) => void;
}

/** A small whole number, set by thumb: one less, one more. */
export function Stepper({ label, value, least, most, text, onChange }: Props) {
  return (
    <div role="group" aria-label={label} className="inline-flex items-center gap-1">
      <Button
        className="size-11 p-0 text-xl"
        aria-label={`${label}: one less`}
        disabled={value <= least}
        onClick={() => onChange(value - 1)}
      >
        −
      </Button>
      <output className="min-w-12 text-center text-lg font-semibold">{text ?? value}</output>
      <Button
        className="size-11 p-0 text-xl"
        aria-label={`${label}: one more`}
        disabled={value >= most}
        onClick={() => onChange(value + 1)}
      >
        +
      </Button>
    </div>
  );
}
