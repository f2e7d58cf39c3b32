import type { Problem } from "../api/client";
import { Button } from "./Button";

interface Props {
  problem: Problem;
  onDismiss: () => void;
  onReload: () => void;
  onRetry: () => void;
}

/** What was refused, why, and what to do; nothing on the plan has changed. */
export function Notice({ problem, onDismiss, onReload, onRetry }: Props) {
  return (
    <div
      role="alert"
      className="plate my-2 flex flex-wrap items-start gap-3 border-danger px-4 py-3"
    >
      <div className="min-w-0 flex-1">
        <p className="font-semibold text-danger">{problem.title}</p>
        <p>{problem.detail}</p>
        {(problem.complaints?.length ?? 0) > 1 && (
          <ul className="mt-1 list-disc pl-5 text-sm">
            {problem.complaints?.map((complaint) => (
              <li key={complaint.where}>
                {complaint.where}: {complaint.text} {complaint.remedy}
              </li>
            ))}
          </ul>
        )}
      </div>
      {problem.status === 409 && <Button onClick={onReload}>Open the current one</Button>}
      {problem.status === 0 && <Button onClick={onRetry}>Try again</Button>}
      <Button onClick={onDismiss}>Close</Button>
    </div>
  );
}
