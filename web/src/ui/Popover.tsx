import { Popover as Radix } from "radix-ui";
import type { ReactNode } from "react";

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
}

/** A small sheet beside what it is about. */
export function Popover(props: Props) {
  const { trigger, title, children, open, onOpenChange, side = "bottom", align = "start" } = props;
  const { clear = 10 } = props;
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
          <h3 className="mb-2 text-base">{title}</h3>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
