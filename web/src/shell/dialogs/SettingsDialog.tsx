import { use, useState } from "react";
import { SchemeContext, UnitContext } from "../../plan/context";
import { useReference } from "../../plan/useReference";
import { HabitsContext } from "../../quantities/useHabits";
import { Dialog } from "../../ui/Dialog";
import { Choice } from "../../ui/fields/Choice";
import { Switch } from "../../ui/fields/Switch";
import { setSingleKeys, singleKeys } from "../singleKeys";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** Units and habits of this browser. */
export default function SettingsDialog({ open, onOpenChange }: Props) {
  const { habits, setHabits } = use(HabitsContext);
  const { unit, setUnit } = use(UnitContext);
  const { scheme, setScheme } = use(SchemeContext);
  const [keys, setKeys] = useState(singleKeys);
  const reference = useReference();
  return (
    <Dialog
      title="Units and habits"
      text="Kept in this browser; the plan itself does not change. A decimal comma is as good as a point everywhere."
      open={open}
      onOpenChange={onOpenChange}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        <Choice
          label="Charge and energy"
          showLabel
          value={unit}
          options={[
            { value: "Ah", text: "Ah" },
            { value: "Wh", text: "Wh" },
          ]}
          onChange={setUnit}
        />
        <Choice
          label="Temperature"
          showLabel
          value={habits.temperature}
          options={[
            { value: "C", text: "°C" },
            { value: "F", text: "°F" },
          ]}
          onChange={(temperature) => setHabits({ ...habits, temperature })}
        />
        <Choice
          label="Cable"
          showLabel
          value={habits.cable}
          options={[
            { value: "mm2", text: "mm²" },
            { value: "AWG", text: "AWG" },
          ]}
          onChange={(cable) => setHabits({ ...habits, cable })}
        />
        <Choice
          label="Weight"
          showLabel
          value={habits.weight}
          options={[
            { value: "kg", text: "kg" },
            { value: "lb", text: "lb" },
          ]}
          onChange={(weight) => setHabits({ ...habits, weight })}
        />
        <Choice
          label="Clock"
          showLabel
          value={habits.clock}
          options={[
            { value: "24", text: "24 h" },
            { value: "12", text: "12 h" },
          ]}
          onChange={(clock) => setHabits({ ...habits, clock })}
        />
        <Choice
          label="Prices"
          showLabel
          value={habits.currency}
          options={[
            { value: "EUR", text: "€" },
            { value: "USD", text: "$", title: "guesses in euros are taken one for one" },
            { value: "GBP", text: "£", title: "guesses in euros are taken one for one" },
          ]}
          onChange={(currency) => setHabits({ ...habits, currency })}
        />
        <Choice
          label="Scheme"
          showLabel
          value={scheme}
          options={[
            { value: "day", text: "day" },
            { value: "night", text: "night, dim red" },
          ]}
          onChange={setScheme}
        />
      </div>
      <div className="mt-4">
        <Switch
          label="Single keys do things"
          hint="1 to 6 open pages, U, N, J and ? switch and open. Keys with Ctrl always work."
          checked={keys}
          onChange={(on) => {
            setSingleKeys(on);
            setKeys(on);
          }}
        />
      </div>
      {reference && (
        <p className="mt-4 text-sm text-ash" data-testid="version">
          Odd Kettle {reference.version}.{" "}
          <a className="underline" href="/status">
            How the program stands
          </a>
        </p>
      )}
    </Dialog>
  );
}
