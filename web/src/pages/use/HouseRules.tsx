import type { Plan } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Button } from "../../ui/Button";
import { ClockField } from "../../ui/fields/ClockField";
import { More } from "../../ui/More";
import { FirstToGo } from "./lanes/FirstToGo";

type Use = Plan["use"];

/** What holds for all appliances: levels at which they go, and quiet hours. */
export function HouseRules() {
  const store = usePlanStore();
  const use = usePlanPart((state) => state.draft.use);
  const { quiet_hours: quiet } = use;
  const set = (part: Partial<Use>, did: string) =>
    store.edit((old) => ({ ...old, use: { ...old.use, ...part } }), did);
  const hours = (next: Use["quiet_hours"]) => set({ quiet_hours: next }, "changed quiet hours");
  return (
    <section className="plate mt-3 px-4 py-2" aria-label="Rules for all">
      <More text="When the battery is low, and quiet hours">
        <FirstToGo />
        <p className="text-sm text-ash">
          Drag a name from shelf to shelf. What went comes back five points above its level; what
          was cut is counted, by appliance.
        </p>
        {quiet.map((window, index) => (
          <div key={index} className="grid max-w-xl grid-cols-[1fr_1fr_auto] items-end gap-2">
            <ClockField
              label="Radio-quiet from"
              value={window.start}
              onCommit={(start) => hours(quiet.with(index, { ...window, start }))}
            />
            <ClockField
              label="to"
              value={window.end}
              onCommit={(end) => hours(quiet.with(index, { ...window, end }))}
            />
            <Button
              aria-label={`Remove the quiet hours from ${window.start} to ${window.end}`}
              onClick={() => hours(quiet.toSpliced(index, 1))}
            >
              ×
            </Button>
          </div>
        ))}
        <Button
          className="self-start"
          disabled={quiet.length >= 6}
          onClick={() => hours([...quiet, { start: "20:00", end: "22:00" }])}
        >
          + daily quiet hours
        </Button>
      </More>
    </section>
  );
}
