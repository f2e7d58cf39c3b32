import { usePlanPart, usePlanStore } from "../../../plan/context";
import { Button } from "../../../ui/Button";
import { TextField } from "../../../ui/fields/TextField";
import { addMainsOutlet, removeOutlet, renamed } from "./outlets";

/** Outlets of mains voltage behind the inverter: where they sit, and who may wire them. */
export function MainsOutlets() {
  const store = usePlanStore();
  const inverter = usePlanPart((state) => state.draft.box.inverter);
  const all = usePlanPart((state) => state.draft.build.outlets);
  const outlets = all.filter((one) => one.mains);
  if (!inverter && outlets.length === 0) return null;
  return (
    <section className="plate flex flex-col gap-3 px-4 py-3" aria-label="Mains outlets">
      <h2 className="text-lg">Mains outlets behind the inverter</h2>
      {outlets.map((one) => (
        <div key={one.outlet} className="flex items-end gap-2">
          <TextField
            label="Outlet’s name"
            value={one.name}
            onCommit={(name) =>
              store.edit((plan) => renamed(plan, one.outlet, name), "named a mains outlet")
            }
          />
          <Button
            onClick={() =>
              store.edit((plan) => removeOutlet(plan, one.outlet), "removed a mains outlet")
            }
          >
            Remove {one.name}
          </Button>
        </div>
      ))}
      <Button
        className="self-start"
        onClick={() => store.edit(addMainsOutlet, "added a mains outlet")}
      >
        Add a mains outlet
      </Button>
      <p className="text-sm text-ash">
        They go behind a residual-current device. Earth and neutral are licensed work.
      </p>
    </section>
  );
}
