import type { Plan } from "../../api/client";
import { removeDay } from "../trip/board/blocks/blocks";

/** The trip with an end at a local moment like 2026-06-08T10:30, on a day of it (from 0). */
export function endsNow(plan: Plan, day: number, moment: string): Plan {
  let next = plan;
  while (next.trip.days.length > day + 1) next = removeDay(next, next.trip.days.length - 1);
  const ends = moment.slice(11, 16);
  // What would begin on this day after the end never does.
  const blocks = next.trip.blocks.filter((block) => block.day < day || block.start < ends);
  return { ...next, trip: { ...next.trip, ends, blocks } };
}
