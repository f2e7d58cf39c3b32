import { use } from "react";
import { HabitsContext } from "../quantities/useHabits";
import { Choice } from "../ui/Choice";
import { Dialog } from "../ui/Dialog";
import { SchemeContext, UnitContext } from "./context";
import { SHORTCUTS } from "./shortcuts";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** Units and habits of this browser. */
export function SettingsDialog({ open, onOpenChange }: Props) {
  const { habits, setHabits } = use(HabitsContext);
  const { unit, setUnit } = use(UnitContext);
  const { scheme, setScheme } = use(SchemeContext);
  return (
    <Dialog
      title="Units and habits"
      says="Kept in this browser; the plan itself does not change. A decimal comma is as good as a point everywhere."
      open={open}
      onOpenChange={onOpenChange}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        <Choice
          label="Charge and energy"
          showLabel
          value={unit}
          options={[
            { value: "Ah", says: "Ah" },
            { value: "Wh", says: "Wh" },
          ]}
          onChange={setUnit}
        />
        <Choice
          label="Temperature"
          showLabel
          value={habits.temperature}
          options={[
            { value: "C", says: "°C" },
            { value: "F", says: "°F" },
          ]}
          onChange={(temperature) => setHabits({ ...habits, temperature })}
        />
        <Choice
          label="Cable"
          showLabel
          value={habits.cable}
          options={[
            { value: "mm2", says: "mm²" },
            { value: "AWG", says: "AWG" },
          ]}
          onChange={(cable) => setHabits({ ...habits, cable })}
        />
        <Choice
          label="Weight"
          showLabel
          value={habits.weight}
          options={[
            { value: "kg", says: "kg" },
            { value: "lb", says: "lb" },
          ]}
          onChange={(weight) => setHabits({ ...habits, weight })}
        />
        <Choice
          label="Clock"
          showLabel
          value={habits.clock}
          options={[
            { value: "24", says: "24 h" },
            { value: "12", says: "12 h" },
          ]}
          onChange={(clock) => setHabits({ ...habits, clock })}
        />
        <Choice
          label="Scheme"
          showLabel
          value={scheme}
          options={[
            { value: "day", says: "day" },
            { value: "night", says: "night, dim red" },
          ]}
          onChange={setScheme}
        />
      </div>
    </Dialog>
  );
}

/** All shortcuts in one sheet. */
export function HelpDialog({ open, onOpenChange }: Props) {
  return (
    <Dialog
      title="Shortcuts"
      says="Everything that is dragged can be moved by keys too: go to it with Tab, then the arrows."
      open={open}
      onOpenChange={onOpenChange}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        {SHORTCUTS.map((group) => (
          <section key={group.where}>
            <h3 className="mb-1">{group.where}</h3>
            <dl className="text-sm">
              {group.keys.map(([keys, does]) => (
                <div key={keys} className="flex gap-3 border-b border-line/70 py-0.5">
                  <dt className="w-32 shrink-0 font-semibold">{keys}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}
