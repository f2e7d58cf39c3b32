import { Switch as Radix } from "radix-ui";
import { useId } from "react";

interface Props {
  label: string;
  hint?: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** Something that is so or not. */
export function Switch({ label, hint, checked, onChange }: Props) {
  const id = useId();
  return (
    <div className="flex items-start gap-2.5">
      <Radix.Root
        id={id}
        checked={checked}
        aria-describedby={hint ? `${id}-hint` : undefined}
        onCheckedChange={onChange}
        className="mt-0.5 h-6 w-10 shrink-0 rounded-full border-2 border-rim bg-plate data-[state=checked]:bg-rim"
      >
        <Radix.Thumb className="block size-4 translate-x-0.5 rounded-full bg-rim transition-transform data-[state=checked]:translate-x-[1.15rem] data-[state=checked]:bg-white" />
      </Radix.Root>
      <div className="leading-snug">
        <label htmlFor={id}>{label}</label>
        {hint && (
          <p id={`${id}-hint`} className="text-xs text-ash">
            {hint}
          </p>
        )}
      </div>
    </div>
  );
}
