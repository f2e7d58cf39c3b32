import type { RunReport } from "../../../api/client";

/** The number that holds this source back on the whole trip. */
export function LimitNote({ limits, part }: { limits: RunReport["limits"]; part: string }) {
  const limit = limits.find((other) => other.key === part);
  if (!limit) return null;
  return (
    <p
      className={`border-l-4 pl-2 ${limit.binds ? "border-sun" : "border-line"}`}
      data-testid="limit"
    >
      {limit.binds && <strong>This is the limit. </strong>}
      {limit.text}
    </p>
  );
}
