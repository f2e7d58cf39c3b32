import type { ReactNode } from "react";

/** What few need, one click away. */
export function More({ text, children }: { text: string; children: ReactNode }) {
  return (
    <details className="border-t border-line pt-2">
      <summary className="cursor-pointer rounded py-1 font-head font-semibold">{text}</summary>
      <div className="mt-2 flex flex-col gap-3">{children}</div>
    </details>
  );
}
