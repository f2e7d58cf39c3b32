import { Slider } from "radix-ui";
import type { LimitKey } from "../../quantities/parse";
import { NumberField } from "./NumberField";

interface Props {
  label: string;
  value: number;
  limit: LimitKey;
  from: number;
  to: number;
  step: number;
  unit?: string;
  onPreview: (value: number) => void;
  onCommit: (value: number) => void;
}

/** A number set by sliding, or by typing it. */
export function SliderField(props: Props) {
  const { label, value, from, to, step, onPreview, onCommit } = props;
  return (
    <div>
      <NumberField {...props} />
      <Slider.Root
        className="relative mt-1 flex h-6 w-full touch-none items-center"
        min={from}
        max={Math.max(to, value)}
        step={step}
        value={[value]}
        onValueChange={([next]) => next !== undefined && onPreview(next)}
        onValueCommit={([next]) => next !== undefined && onCommit(next)}
      >
        <Slider.Track className="relative h-1.5 grow rounded-full bg-line">
          <Slider.Range className="absolute h-full rounded-full bg-rim-soft" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={label}
          className="block size-5 rounded-full border-2 border-white bg-rim shadow"
        />
      </Slider.Root>
    </div>
  );
}
