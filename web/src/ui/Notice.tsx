import type { Problem } from "../api/client";

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
      {problem.status === 409 && (
        <button type="button" className="key" onClick={onReload}>
          Open the current one
        </button>
      )}
      {problem.status === 0 && (
        <button type="button" className="key" onClick={onRetry}>
          Try again
        </button>
      )}
      <button type="button" className="key" onClick={onDismiss}>
        Close
      </button>
    </div>
  );
}
