import { createContext, type ReactNode, useContext } from "react";

/** A figure whose sum is to be opened: its name, and the day, or the whole trip. */
export interface Asked {
  figure: string;
  day: number | null;
}

/** The tracked level of a trip under way. */
export const STANDING = "standing";

export type OpenSum = (asked: Asked, anchor: HTMLElement) => void;
export const SumContext = createContext<OpenSum>(() => undefined);

export function useOpenSum(): OpenSum {
  return useContext(SumContext);
}

interface Props {
  of: string;
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
    <button
      type="button"
      className={`figure ${className}`}
      aria-label={label && `${label}. Open its sum`}
      title="How was this made?"
      data-testid={testId}
      onClick={(event) => {
        event.stopPropagation();
        open({ figure: of, day }, event.currentTarget);
      }}
    >
      {children}
    </button>
  );
}
