import type { Appliance, Hours } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { ClockField } from "../../../ui/fields/ClockField";
import { Switch } from "../../../ui/fields/Switch";
import { type DayKind, hoursFor, KIND_SAYS, withHoursFor } from "./lanes";

interface Props {
  appliance: Appliance;
  kind: DayKind;
  onChange: (next: Appliance, did: string) => void;
}

/** An appliance's hours on one kind of day, typed. */
export function DayHours({ appliance, kind, onChange }: Props) {
  const hours = hoursFor(appliance, kind);
  const own = kind === "site" || appliance[`${kind}_hours`] != null;
  const set = (next: Hours[] | null) =>
    onChange(withHoursFor(appliance, kind, next), `changed the hours of ${appliance.name}`);
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="text-sm text-ash">Hours, {KIND_SAYS[kind]}</legend>
      {kind !== "site" && (
        <Switch
          label="As on site"
          checked={!own}
          onChange={(same) => set(same ? null : appliance.hours)}
        />
      )}
      {own &&
        hours.map((window, index) => (
          <div key={index} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <ClockField
              label="from"
              value={window.start}
              onCommit={(start) => set(hours.with(index, { ...window, start }))}
            />
            <ClockField
              label="to"
              value={window.end}
              onCommit={(end) => set(hours.with(index, { ...window, end }))}
            />
            <Button
              aria-label={`Remove the hours ${window.start} to ${window.end}`}
              disabled={kind === "site" && hours.length === 1}
              onClick={() => set(hours.toSpliced(index, 1))}
            >
              ×
            </Button>
          </div>
        ))}
      {own && hours.length === 0 && <p className="text-sm">It does not run on such days.</p>}
      {own && (
        <Button
          className="self-start"
          disabled={hours.length >= 12}
          onClick={() => set([...hours, { start: "12:00", end: "13:00" }])}
        >
          + more hours
        </Button>
      )}
    </fieldset>
  );
}
