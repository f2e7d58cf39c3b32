import { Refusal } from "../api/client";

/** Whether an answer failed because nobody was there to give it. */
export function isAway(error: unknown): boolean {
  return error instanceof Refusal && error.problem.status === 0;
}
