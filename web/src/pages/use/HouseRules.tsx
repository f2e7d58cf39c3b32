import type { Plan } from "../../api/client";
import { useBench, useBenchPart } from "../../app/context";
import { ClockField } from "../../ui/ClockField";
import { More } from "../../ui/More";
import { NumberField } from "../../ui/NumberField";

type Use = Plan["use"];

/** What holds for all appliances: levels at which they go, and quiet hours. */
export function HouseRules() {
  const bench = useBench();
  const use = useBenchPart((state) => state.draft.use);
  const { shedding, quiet_hours: quiet } = use;
  const set = (part: Partial<Use>, did: string) =>
    bench.edit((old) => ({ ...old, use: { ...old.use, ...part } }), did);
  const shed = (part: Partial<Use["shedding"]>) =>
    set({ shedding: { ...shedding, ...part } }, "changed when things are switched off");
  const hours = (next: Use["quiet_hours"]) => set({ quiet_hours: next }, "changed quiet hours");
  return (
    <section className="plate mt-3 px-4 py-2" aria-label="Rules for all">
      <More says="What goes when the level falls, and quiet hours">
        <div className="grid max-w-xl grid-cols-2 gap-3">
          <NumberField
            label="What goes first is off below"
            value={shedding.first_percent}
            limit="Shedding.first_percent"
            empty="not by itself"
            onClear={() => shed({ first_percent: null })}
            onCommit={(first_percent) => shed({ first_percent })}
          />
          <NumberField
            label="What goes when it must, below"
            value={shedding.wanted_percent}
            limit="Shedding.wanted_percent"
            empty="not by itself"
            onClear={() => shed({ wanted_percent: null })}
            onCommit={(wanted_percent) => shed({ wanted_percent })}
          />
        </div>
        <p className="text-sm text-ash">
          They come back five points above. What was cut is counted, by appliance.
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
            <button
              type="button"
              className="key"
              aria-label={`Remove the quiet hours from ${window.start} to ${window.end}`}
              onClick={() => hours(quiet.toSpliced(index, 1))}
            >
              ×
            </button>
          </div>
        ))}
        <button
          type="button"
          className="key self-start"
          disabled={quiet.length >= 6}
          onClick={() => hours([...quiet, { start: "20:00", end: "22:00" }])}
        >
          + daily quiet hours
        </button>
      </More>
    </section>
  );
}
