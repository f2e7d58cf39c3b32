import { usePlanState, usePlanStore } from "../../../../plan/context";
import { NumberField } from "../../../../ui/fields/NumberField";
import { Switch } from "../../../../ui/fields/Switch";
import { withBox } from "../../parts";

/** The lead between two banks, and when the second one is on it. */
export function SecondLink() {
  const store = usePlanStore();
  const { draft } = usePlanState();
  const { second } = draft.box;
  if (!second) return null;
  const set = (part: Partial<typeof second>) =>
    store.edit(
      (old) => withBox(old, { second: { ...second, ...part } }),
      "changed the second bank",
    );
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="It begins at"
          value={second.start_percent}
          limit="SecondBank.start_percent"
          onCommit={(start_percent) => set({ start_percent })}
        />
        <NumberField
          label="Lead between the banks"
          value={second.link_mohm}
          limit="SecondBank.link_mohm"
          unit="mΩ"
          onCommit={(link_mohm) => set({ link_mohm })}
        />
      </div>
      <Switch
        label="It is there"
        hint="Off: it stays in the plan and does nothing."
        checked={second.on}
        onChange={(on) => set({ on })}
      />
      <Switch
        label="Joined all the time"
        hint="Otherwise only in its blocks on the Trip page."
        checked={second.always}
        onChange={(always) => set({ always })}
      />
      <p className="text-sm text-ash">
        Banks in parallel should be of one kind and age, each with its own fuse: the fuller one
        pours into the other as fast as the lead allows.
      </p>
    </>
  );
}
