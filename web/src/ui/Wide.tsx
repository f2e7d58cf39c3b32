import type { ReactNode } from "react";

interface Props {
  /** What it holds, for whoever cannot see it. */
  label: string;
  className?: string;
  children: ReactNode;
}

/** What may be wider than a phone: it scrolls by itself, by keys too. */
export function Wide({ label, className = "", children }: Props) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keys
    <section aria-label={label} tabIndex={0} className={`min-w-0 overflow-x-auto ${className}`}>
      {children}
    </section>
  );
}
