import type { ReactNode } from "react";

interface Props {
  text: string;
  /** What it holds, in a few words at the right: seen without opening it. */
  says?: string | undefined;
  children: ReactNode;
}

/** What few need, one click away. */
export function More({ text, says, children }: Props) {
  return (
    <details className="border-t border-line pt-1">
      <summary className="flex min-h-11 cursor-pointer items-center justify-between gap-3 rounded">
        <span className="font-head font-semibold">{text}</span>{" "}
        {says && <span className="text-right text-ash">{says}</span>}
      </summary>
      <div className="mt-1 mb-2 flex flex-col gap-3">{children}</div>
    </details>
  );
}
