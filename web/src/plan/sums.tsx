import { createContext, type ReactNode, useContext } from "react";
import type { Sum } from "../api/client";
import { Button } from "../ui/Button";

/** A figure whose sum is to be opened: its name, and the day, or the whole trip. */
export interface Asked {
  figure: string;
  day: number | null;
  /** A sum that came with the figure: it need not be asked for. */
  given?: Sum;
}

/** The tracked level of a trip under way. */
export const STANDING = "standing";

export type OpenSum = (asked: Asked, anchor: HTMLElement) => void;
export const SumContext = createContext<OpenSum>(() => undefined);

export function useOpenSum(): OpenSum {
  return useContext(SumContext);
}

interface Props {
  /** The figure's name, or its sum where that came with it. */
  of: string | Sum;
  day?: number | null;
  /** What a reader of the screen hears, when the text alone does not say what it is. */
  label?: string;
  className?: string;
  testId?: string;
  children: ReactNode;
}

/** A figure that opens to its sum. */
export function Figure({ of, day = null, label, className = "", testId, children }: Props) {
  const open = useOpenSum();
  return (
    <Button
      look="bare"
      className={`figure ${className}`}
      aria-label={label && `${label}. Open its sum`}
      title="How was this made?"
      data-testid={testId}
      onClick={(event) => {
        event.stopPropagation();
        const asked = typeof of === "string" ? { figure: of } : { figure: of.title, given: of };
        open({ ...asked, day }, event.currentTarget);
      }}
    >
      {children}
    </Button>
  );
}
