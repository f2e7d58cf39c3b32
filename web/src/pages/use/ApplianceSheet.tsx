import type { Amount, Appliance } from "../../api/client";
import { LabelReader } from "../../labels/LabelReader";
import { usePlanPart, useUnit } from "../../plan/context";
import { JudgementsOf } from "../../plan/judgements";
import { KeepKey } from "../../plan/OwnShelf";
import { Cautions } from "../../shell/header/Caution";
import { Schools } from "../../shell/header/Schools";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { NumberField } from "../../ui/fields/NumberField";
import { SliderField } from "../../ui/fields/SliderField";
import { Switch } from "../../ui/fields/Switch";
import { TextField } from "../../ui/fields/TextField";
import { More } from "../../ui/More";
import { FlexibleFields } from "./FlexibleFields";
import { DayHours } from "./lanes/DayHours";
import type { DayKind } from "./lanes/lanes";
import { MeasureIt } from "./MeasureIt";
import { PatternFields } from "./PatternFields";

interface Props {
  appliance: Appliance;
  /** Amps at the battery for each watt at the plug, from the run. */
  ampsPerWatt: number;
  /** What it takes a day, from the run. */
  daily: Amount;
  hasInverter: boolean;
  /** The kind of day whose hours are shown. */
  kind: DayKind;
  onPreview: (next: Appliance) => void;
  onChange: (next: Appliance, did: string) => void;
  onMove: (by: number) => void;
  onDuplicate: () => void;
  onRemove: () => void;
}

/** Everything about one appliance, typed. */
export function ApplianceSheet(props: Props) {
  const { appliance, ampsPerWatt, daily, hasInverter, kind, onPreview, onChange } = props;
  const set = (part: Partial<Appliance>, did: string) => onChange({ ...appliance, ...part }, did);
  const systemV = usePlanPart((state) => state.draft.box.system_v);

  return (
    <div className="flex flex-col gap-3">
      <JudgementsOf part={`appliance:${appliance.id}`} notes={false} />
      <TextField
        label="Name"
        value={appliance.name}
        onCommit={(name) => set({ name }, "renamed")}
      />
      <TakesADay
        appliance={appliance}
        daily={daily}
        onChange={(next) => set(next, `said what ${appliance.name} takes a day`)}
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
          { value: "measured", text: "measured" },
          ...(appliance.figure === "learned"
            ? [{ value: "learned", text: "learned from the log" } as const]
            : []),
          { value: "guess", text: "a guess" },
        ]}
        onChange={(figure) => set({ figure }, `marked ${appliance.name}`)}
      />
      {appliance.figure !== "measured" && (
        <NumberField
          label="It may be off by"
          value={appliance.spread_percent}
          limit="Appliance.spread_percent"
          hint="more or less"
          onCommit={(spread_percent) =>
            set({ spread_percent }, `changed the spread of ${appliance.name}`)
          }
        />
      )}
      <LabelReader
        of="appliance"
        parts={{ appliance }}
        onTake={(read) =>
          read.appliance &&
          onChange(
            { ...read.appliance, id: appliance.id },
            `took over the label of ${appliance.name}`,
          )
        }
      />
      <More text="Measure it">
        <MeasureIt appliance={appliance} />
      </More>
      <Choice
        label="It runs from"
        showLabel
        value={appliance.supply}
        options={[
          { value: "12v", text: "12 V" },
          { value: "usb", text: "USB", title: "through a converter that keeps 88 %" },
          {
            value: "inverter",
            text: "inverter",
            title: hasInverter ? "and the inverter idles with it" : "this box has none yet",
          },
        ]}
        onChange={(supply) => set({ supply }, `changed the supply of ${appliance.name}`)}
      />
      {appliance.supply === "inverter" && (
        <Switch
          label="It has a mains adapter of its own"
          hint="It is a USB or 12 V device: its label shows a low voltage in."
          checked={appliance.adapter}
          onChange={(adapter) => set({ adapter }, `marked ${appliance.name}`)}
        />
      )}
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
      <DayHours appliance={appliance} kind={kind} onChange={onChange} />
      {!appliance.medical && (
        <FlexibleFields
          appliance={appliance}
          onChange={(flexible) => set({ flexible }, `changed when ${appliance.name} runs`)}
        />
      )}
      <PatternFields
        appliance={appliance}
        onChange={(pattern) => set({ pattern }, `changed how ${appliance.name} runs`)}
      />
      <More text="When the level falls, and more">
        {appliance.medical ? (
          <p className="text-sm text-ash">It is never switched off: it is medical.</p>
        ) : (
          <Choice
            label="It goes"
            showLabel
            value={appliance.priority}
            options={[
              { value: "first", text: "first" },
              { value: "wanted", text: "if needed" },
              { value: "must", text: "never" },
            ]}
            onChange={(priority) => set({ priority }, `ranked ${appliance.name}`)}
          />
        )}
        <Choice
          label="As the voltage moves it draws"
          showLabel
          value={appliance.draw}
          options={[
            { value: "power", text: "constant power", title: "electronics" },
            { value: "resistance", text: "like a heater", title: "kettles, filament lamps" },
            { value: "current", text: "constant current" },
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
        {systemV > 12 && appliance.supply === "12v" && (
          <Switch
            label="Its label says 12/24 V"
            hint="What is made for 12 V alone burns on this box."
            checked={appliance.takes_24v}
            onChange={(takes_24v) => set({ takes_24v }, `read the label of ${appliance.name}`)}
          />
        )}
        <Switch
          label="Medical: must not lose power"
          checked={appliance.medical}
          onChange={(medical) =>
            set(medical ? { medical, priority: "must" } : { medical }, `marked ${appliance.name}`)
          }
        />
        {appliance.medical && (
          <Switch
            label="It has a second source"
            hint="One that needs none of this box, and was tried out."
            checked={appliance.backup}
            onChange={(backup) => set({ backup }, `told of a second source for ${appliance.name}`)}
          />
        )}
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
      {appliance.medical && <Cautions about={["medical"]} />}
      <JudgementsOf part={`appliance:${appliance.id}`} notes />
      <Schools part={`appliance:${appliance.id}`} />
      <div className="flex flex-col gap-2 border-t border-line pt-3">
        <Switch
          label="It is in use"
          hint="Turn off to see the trip without it. It stays in the plan."
          checked={appliance.on}
          onChange={(on) => set({ on }, `switched ${appliance.name}`)}
        />
        <KeepKey name={appliance.name} part={{ appliance }} />
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => props.onMove(-1)}>up</Button>
          <Button onClick={() => props.onMove(1)}>down</Button>
          <Button className="ml-auto" onClick={props.onDuplicate}>
            Duplicate it
          </Button>
          <Button onClick={props.onRemove}>Remove it</Button>
        </div>
      </div>
    </div>
  );
}

interface TakesProps {
  appliance: Appliance;
  daily: Amount;
  onChange: (part: Pick<Appliance, "power_w" | "duty_percent">) => void;
}

/**
 * What a meter or an energy label tells. Its hours stay: it runs a larger share of them, and above
 * all of them it draws more.
 */
function TakesADay({ appliance, daily, onChange }: TakesProps) {
  const unit = useUnit();
  const { power_w, duty_percent, pattern } = appliance;
  const steady = pattern == null || pattern.type === "fridge";
  if (!steady || daily.wh <= 0) return null;
  return (
    <NumberField
      label="It takes a day"
      value={daily.wh}
      limit="Thing.wh_a_day"
      per={unit === "Ah" ? daily.ah / daily.wh : 1}
      unit={unit}
      hint="as a meter or an energy label has it"
      onCommit={(wh) => {
        const share = (duty_percent * wh) / daily.wh;
        const duty = Math.min(Math.max(share, 1), 100);
        onChange({
          duty_percent: roundTo(duty, 2),
          power_w: roundTo((power_w * share) / duty, 4),
        });
      }}
    />
  );
}

function roundTo(value: number, digits: number): number {
  return Number(value.toPrecision(digits));
}
