import type { ReactNode } from "react";

interface Props {
  /** The page's answer, in one line on a desk and two on a phone. */
  answer: ReactNode;
  /** What stands before the answer, and is no part of it: the mark of a danger. */
  mark?: ReactNode;
  /** A quiet line of facts below it. */
  facts?: ReactNode;
  /** The one filled button of the page. */
  act?: ReactNode;
  /** Whether the answer speaks of a danger. */
  grave?: boolean;
  testId?: string;
}

/** What every page begins with: its answer, the facts behind it, and what to do next. */
export function PageHead({ answer, mark, facts, act, grave = false, testId = "headline" }: Props) {
  return (
    <div className="head" data-head>
      <div className="min-w-0 flex-1" aria-live="polite">
        <div className="flex items-baseline gap-2">
          {mark}
          <h1 className={`answer ${grave ? "text-danger" : ""}`} data-testid={testId}>
            {answer}
          </h1>
        </div>
        {facts && <div className="facts">{facts}</div>}
      </div>
      {act}
    </div>
  );
}
