import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";

interface Props {
  title: string;
  text?: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  children: ReactNode;
}

/** A sheet over the page. */
export function Dialog({ title, text, open, onOpenChange, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-scrim" />
        <Radix.Content className="dialog" {...(text ? {} : { "aria-describedby": undefined })}>
          <div className="mb-3 flex items-start justify-between gap-3">
            <div>
              <Radix.Title className="text-xl">{title}</Radix.Title>
              {text && <Radix.Description className="text-sm text-ash">{text}</Radix.Description>}
            </div>
            <Radix.Close asChild>
              <Button>Close</Button>
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
