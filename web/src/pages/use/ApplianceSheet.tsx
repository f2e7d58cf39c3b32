import type { Appliance, Hours } from "../../api/client";
import { Choice } from "../../ui/Choice";
import { ClockField } from "../../ui/ClockField";
import { More } from "../../ui/More";
import { NumberField } from "../../ui/NumberField";
import { SliderField } from "../../ui/SliderField";
import { Switch } from "../../ui/Switch";
import { TextField } from "../../ui/TextField";
import { PatternFields } from "./PatternFields";

interface Props {
  appliance: Appliance;
  /** Amps at the battery for each watt at the plug, from the run. */
  ampsPerWatt: number;
  hasInverter: boolean;
  onPreview: (next: Appliance) => void;
  onChange: (next: Appliance, did: string) => void;
  onMove: (by: number) => void;
  onRemove: () => void;
}

/** Everything about one appliance, typed. */
export function ApplianceSheet(props: Props) {
  const { appliance, ampsPerWatt, hasInverter, onPreview, onChange, onMove, onRemove } = props;
  const set = (part: Partial<Appliance>, did: string) => onChange({ ...appliance, ...part }, did);
  const setHours = (hours: Hours[]) => set({ hours }, `changed the hours of ${appliance.name}`);

  return (
    <div className="flex max-h-[64vh] flex-col gap-3 overflow-y-auto pr-1">
      <TextField
        label="Name"
        value={appliance.name}
        onCommit={(name) => set({ name }, "renamed")}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Power while it runs"
          value={appliance.power_w}
          limit="Appliance.power_w"
          onCommit={(power_w) => set({ power_w }, `changed the power of ${appliance.name}`)}
        />
        <NumberField
          label="or current at the battery"
          value={appliance.power_w}
          limit="Appliance.power_w"
          per={ampsPerWatt}
          unit="A"
          onCommit={(power_w) =>
            set({ power_w: roundTo(power_w, 4) }, `changed the current of ${appliance.name}`)
          }
        />
      </div>
      <Choice
        label="This figure is"
        showLabel
        value={appliance.figure}
        options={[
          { value: "measured", says: "measured" },
          { value: "guess", says: "a guess" },
        ]}
        onChange={(figure) => set({ figure }, `marked ${appliance.name}`)}
      />
      <Choice
        label="It runs from"
        showLabel
        value={appliance.supply}
        options={[
          { value: "12v", says: "12 V" },
          { value: "usb", says: "USB", title: "through a converter that keeps 88 %" },
          {
            value: "inverter",
            says: "inverter",
            title: hasInverter ? "and the inverter idles with it" : "this box has none yet",
          },
        ]}
        onChange={(supply) => set({ supply }, `changed the supply of ${appliance.name}`)}
      />
      <SliderField
        label="Share of its hours that it really runs"
        value={appliance.duty_percent}
        limit="Appliance.duty_percent"
        from={1}
        to={100}
        step={1}
        onPreview={(duty_percent) => onPreview({ ...appliance, duty_percent })}
        onCommit={(duty_percent) => set({ duty_percent }, `changed the duty of ${appliance.name}`)}
      />
      <fieldset className="flex flex-col gap-2">
        <legend className="text-sm text-ash">Hours, every day</legend>
        {appliance.hours.map((window, index) => (
          <div key={index} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <ClockField
              label="from"
              value={window.start}
              onCommit={(start) => setHours(appliance.hours.with(index, { ...window, start }))}
            />
            <ClockField
              label="to"
              value={window.end}
              onCommit={(end) => setHours(appliance.hours.with(index, { ...window, end }))}
            />
            <button
              type="button"
              className="key"
              aria-label={`Remove the hours ${window.start} to ${window.end}`}
              disabled={appliance.hours.length === 1}
              onClick={() => setHours(appliance.hours.toSpliced(index, 1))}
            >
              ×
            </button>
          </div>
        ))}
        <button
          type="button"
          className="key self-start"
          disabled={appliance.hours.length >= 12}
          onClick={() => setHours([...appliance.hours, { start: "12:00", end: "13:00" }])}
        >
          + more hours
        </button>
      </fieldset>
      <PatternFields
        appliance={appliance}
        onChange={(pattern) => set({ pattern }, `changed how ${appliance.name} runs`)}
      />
      <More says="When the level falls, and more">
        <Choice
          label="It goes"
          showLabel
          value={appliance.priority}
          options={[
            { value: "first", says: "first" },
            { value: "wanted", says: "when it must" },
            { value: "must", says: "never" },
          ]}
          onChange={(priority) => set({ priority }, `ranked ${appliance.name}`)}
        />
        <Choice
          label="As the voltage moves it draws"
          showLabel
          value={appliance.draw}
          options={[
            { value: "power", says: "constant power", title: "electronics" },
            { value: "resistance", says: "like a heater", title: "kettles, filament lamps" },
            { value: "current", says: "constant current" },
          ]}
          onChange={(draw) => set({ draw }, `changed the draw of ${appliance.name}`)}
        />
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Standby, out of its hours"
            value={appliance.standby_w}
            limit="Appliance.standby_w"
            onCommit={(standby_w) => set({ standby_w }, `changed ${appliance.name}`)}
          />
          <NumberField
            label="Takes to start"
            value={appliance.surge_w}
            limit="Appliance.surge_w"
            onCommit={(surge_w) => set({ surge_w }, `changed ${appliance.name}`)}
          />
        </div>
        <Switch
          label="On the vehicle’s socket while driving"
          checked={appliance.on_vehicle}
          onChange={(on_vehicle) => set({ on_vehicle }, `moved ${appliance.name}`)}
        />
        <Switch
          label="It makes radio noise"
          hint="Then it is off in quiet hours."
          checked={appliance.noisy}
          onChange={(noisy) => set({ noisy }, `marked ${appliance.name}`)}
        />
      </More>
      <div className="flex flex-wrap gap-2 border-t border-line pt-3">
        <button type="button" className="key" onClick={() => onMove(-1)}>
          up
        </button>
        <button type="button" className="key" onClick={() => onMove(1)}>
          down
        </button>
        <button type="button" className="key ml-auto" onClick={onRemove}>
          Remove it
        </button>
      </div>
    </div>
  );
}

function roundTo(value: number, digits: number): number {
  return Number(value.toPrecision(digits));
}
