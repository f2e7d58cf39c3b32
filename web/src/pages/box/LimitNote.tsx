import type { RunReport } from "../../api/client";
import { useUnit } from "../../plan/context";
import { inHabits } from "../../quantities/habits";
import { inUnit } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";

/** The number that holds this source back on the whole trip. */
export function LimitNote({ limits, part }: { limits: RunReport["limits"]; part: string }) {
  const unit = useUnit();
  const habits = useHabits();
  const limit = limits.find((other) => other.key === part);
  if (!limit) return null;
  return (
    <p
      className={`border-l-4 pl-2 ${limit.binds ? "border-sun" : "border-line"}`}
      data-testid="limit"
    >
      {limit.binds && <strong>This is a neck. </strong>}
      {inHabits(inUnit(limit.says, unit), habits)}
    </p>
  );
}
