import type { Appliance } from "../../../api/client";
import { minutesOf } from "../../../quantities/clock";
import { axisMin, type DayKind, hoursFor } from "./lanes";

/**
 * The starts of a flexible load's runs on days of one kind, in minutes of the noon axis, each
 * once. Where none is placed it begins with its hours.
 */
export function startsOf(
  appliance: Appliance,
  kind: DayKind,
  days: readonly { kind: DayKind }[],
): number[] {
  const runs = (appliance.flexible?.runs ?? []).filter((run) => days[run.day]?.kind === kind);
  const first = hoursFor(appliance, kind)[0];
  const starts = runs.length > 0 ? runs.map((run) => run.start) : first ? [first.start] : [];
  return [...new Set(starts.map((start) => axisMin(minutesOf(start) % 1440)))].sort(
    (a, b) => a - b,
  );
}
