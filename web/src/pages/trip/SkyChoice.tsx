import type { Sky } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Choice } from "../../ui/fields/Choice";

export const SKY_SAYS: Record<Sky, string> = {
  expected: "In usual weather",
  worst: "In dull weather, the worst trip of ten",
  middling: "In middling weather",
  best: "In bright weather, the best trip of ten",
};

/** Which of the scenarios the board shows: every figure on it is that one's. */
export function SkyChoice() {
  const store = usePlanStore();
  const sky = usePlanPart((state) => state.sky);
  return (
    <div className="flex items-center gap-2">
      <span className="text-sm text-ash" aria-hidden="true">
        weather
      </span>
      <Choice
        label="Weather shown"
        oneLine
        value={sky}
        options={[
          { value: "expected", text: "usual" },
          { value: "worst", text: "dull", title: "The worst trip of ten" },
          { value: "best", text: "bright", title: "The best trip of ten" },
        ]}
        onChange={store.setScenario}
      />
    </div>
  );
}
