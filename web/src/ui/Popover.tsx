import { Popover as Radix } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";

interface Props {
  trigger: ReactNode;
  title: string;
  children: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  side?: "top" | "right" | "bottom" | "left";
  align?: "start" | "center" | "end";
  /** Pixels at the top of the screen that it leaves free, so that what moves stays in sight. */
  clear?: number;
  /** What a phone shows above its fields: there the sheet covers the answer. */
  above?: ReactNode;
}

/** A small sheet beside what it is about. */
export function Popover(props: Props) {
  const { trigger, title, children, open, onOpenChange, side = "bottom", align = "start" } = props;
  const { clear = 10, above } = props;
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          className="pop sheet"
          side={side}
          align={align}
          sideOffset={6}
          collisionPadding={{ top: clear, bottom: 10, left: 10, right: 10 }}
          aria-label={title}
        >
          <div className="mb-2 flex items-center justify-between gap-2 max-sm:sticky max-sm:-top-4 max-sm:z-10 max-sm:-mx-4 max-sm:-mt-4 max-sm:border-b max-sm:border-line max-sm:bg-plate max-sm:px-4 max-sm:py-2">
            <div className="min-w-0">
              <h3 className="text-base">{title}</h3>
              {above && <p className="line-clamp-2 text-sm sm:hidden">{above}</p>}
            </div>
            <Radix.Close asChild>
              <Button look="main" className="sm:hidden">
                Done
              </Button>
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
