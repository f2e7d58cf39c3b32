import type { Appliance, Schemas } from "../../api/client";
import { usePlanPart } from "../../plan/context";
import { dateAfter, dayName } from "../../quantities/clock";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { ClockField } from "../../ui/fields/ClockField";
import { NumberField } from "../../ui/fields/NumberField";
import { Select } from "../../ui/fields/Select";
import { Switch } from "../../ui/fields/Switch";
import { hoursFor } from "./lanes/lanes";

type Flexible = Schemas["Flexible"];

interface Props {
  appliance: Appliance;
  onChange: (flexible: Flexible | null) => void;
}

const USUAL: Flexible = { minutes: 120, each: "day", while_driving: false, runs: [] };
const MAX_SHOWN = 31;

/** Whether it runs all its hours, or so long at any time within them. */
export function FlexibleFields({ appliance, onChange }: Props) {
  const start = usePlanPart((state) => state.draft.trip.start);
  const days = usePlanPart((state) => state.draft.trip.days.length);
  const flexible = appliance.flexible ?? null;
  const set = (part: Partial<Flexible>) => flexible && onChange({ ...flexible, ...part });
  const runs = flexible?.runs ?? [];
  const own = runs.filter((run) => run.fixed);
  const free = Array.from({ length: days }, (_, day) => day).filter(
    (day) => !own.some((run) => run.day === day),
  );
  return (
    <fieldset className="flex flex-col gap-2">
      <Choice
        label="It runs"
        showLabel
        value={flexible ? "any" : "all"}
        options={[
          { value: "all", text: "all its hours" },
          { value: "any", text: "at any time in them" },
        ]}
        onChange={(value) => onChange(value === "any" ? USUAL : null)}
      />
      {flexible && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <NumberField
              label="For so long, in one go"
              value={flexible.minutes}
              limit="Flexible.minutes"
              onCommit={(minutes) => set({ minutes: Math.round(minutes) })}
            />
            <Select
              label="How often"
              value={flexible.each ?? "day"}
              options={[
                { value: "day", text: "every day" },
                { value: "trip", text: "once on the trip" },
              ]}
              onChange={(each) =>
                set({ each, runs: own.slice(0, each === "trip" ? 1 : undefined) })
              }
            />
          </div>
          {flexible.each === "trip" && days <= MAX_SHOWN && (
            <Select
              label="Done by the evening of"
              value={String(Math.min(flexible.by_day ?? days - 1, days - 1))}
              options={Array.from({ length: days }, (_, day) => ({
                value: String(day),
                text: dayName(dateAfter(start, day)),
              }))}
              onChange={(day) => set({ by_day: Number(day) })}
            />
          )}
          <Switch
            label="While the engine runs"
            hint="on days with a drive within its hours"
            checked={flexible.while_driving ?? false}
            onChange={(while_driving) => set({ while_driving })}
          />
          {own.map((run) => (
            <div key={run.day} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
              <span className="pb-2 text-sm">
                {dayName(dateAfter(start, run.day))}: I run it at
              </span>
              <ClockField
                label="from"
                value={run.start}
                onCommit={(at) =>
                  set({
                    runs: runs.map((one) => (one.day === run.day ? { ...one, start: at } : one)),
                  })
                }
              />
              <Button
                aria-label={`Leave ${dayName(dateAfter(start, run.day))} to the schedule`}
                onClick={() => set({ runs: runs.filter((one) => one.day !== run.day) })}
              >
                ×
              </Button>
            </div>
          ))}
          {free.length > 0 && (flexible.each !== "trip" || own.length === 0) && (
            <Select
              label="A time of my own, which no schedule moves"
              value=""
              options={[
                { value: "", text: "choose a day" },
                ...free
                  .slice(0, MAX_SHOWN)
                  .map((day) => ({ value: String(day), text: dayName(dateAfter(start, day)) })),
              ]}
              onChange={(value) => {
                if (value === "") return;
                const day = Number(value);
                const before = runs.find((run) => run.day === day);
                const at = before?.start ?? hoursFor(appliance, "site")[0]?.start ?? "12:00";
                const rest = flexible.each === "trip" ? [] : runs.filter((run) => run.day !== day);
                set({ runs: [...rest, { day, start: at, fixed: true }] });
              }}
            />
          )}
          <p className="text-sm text-ash">
            {runs.length > own.length
              ? "Its other days follow the schedule."
              : "Without a schedule it runs as soon as its hours begin. “Best hours” on this page finds better times."}
          </p>
        </>
      )}
    </fieldset>
  );
}
