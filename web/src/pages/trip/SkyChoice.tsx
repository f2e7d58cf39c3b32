import type { Sky } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Choice } from "../../ui/Choice";

export const SKY_SAYS: Record<Sky, string> = {
  expected: "In the expected sky",
  worst: "In the worst sky of ten",
  middling: "In a middling sky",
  best: "In the best sky of ten",
};

/** Which of the futures the board shows: every figure on it is that one's. */
export function SkyChoice() {
  const store = usePlanStore();
  const sky = usePlanPart((state) => state.sky);
  return (
    <Choice
      label="Sky shown"
      oneLine
      value={sky}
      options={[
        { value: "expected", text: "expected" },
        { value: "worst", text: "worst" },
        { value: "middling", text: "middling" },
        { value: "best", text: "best of ten" },
      ]}
      onChange={store.look}
    />
  );
}
