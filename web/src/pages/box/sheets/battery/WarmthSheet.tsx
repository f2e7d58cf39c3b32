import type { Box } from "../../../../api/client";
import { usePlanState, usePlanStore, useUnit } from "../../../../plan/context";
import { degreesText } from "../../../../quantities/habits";
import { amountText, hoursText } from "../../../../quantities/units";
import { useHabits } from "../../../../quantities/useHabits";
import { Button } from "../../../../ui/Button";
import { Choice } from "../../../../ui/fields/Choice";
import { Fields } from "../../../../ui/fields/Fields";
import { Switch } from "../../../../ui/fields/Switch";
import { withBox } from "../../parts";

/** What stands around the battery, and pads that warm it. */
export function WarmthSheet() {
  const store = usePlanStore();
  const { draft, run } = usePlanState();
  const { box } = draft;
  const set = (part: Partial<Box>, did: string) => store.edit((old) => withBox(old, part), did);
  const unit = useUnit();
  const habits = useHabits();
  const { housing, heater } = box;
  const { bank, endurance } = run;
  const insulated = housing.lag_h >= 10;
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">Temperature and location</h2>
      <p className="border-l-4 border-line pl-2" data-testid="warmth">
        On this trip the battery is between {degreesText(bank.lowest_c, habits, false)} and{" "}
        {degreesText(bank.highest_c, habits)}.
        {endurance.locked_h > 0.05 && (
          <strong className="text-danger">
            {" "}
            ▲ Too cold to charge for {hoursText(endurance.locked_h)} in which a source offers.
          </strong>
        )}
      </p>
      <Choice
        label="Housing"
        showLabel
        value={insulated ? "boxed" : "bare"}
        options={[
          { value: "bare", text: "bare", title: "follows the air in about 4 h" },
          { value: "boxed", text: "boxed and insulated", title: "in about 12 h" },
        ]}
        onChange={(next) =>
          set({ housing: { ...housing, lag_h: next === "boxed" ? 12 : 4 } }, "changed the housing")
        }
      />
      <Fields
        model="Housing"
        part={housing}
        specs={[
          { kind: "number", key: "lag_h", text: "Follows the air in" },
          { kind: "number", key: "warmer_k", text: "Its place is warmer by" },
        ]}
        onChange={(next) => set({ housing: next }, "changed the housing")}
      />
      <Choice
        label="The battery stands"
        showLabel
        value={housing.place}
        options={[
          {
            value: "aired",
            text: "in an aired place",
            title: "a locker or box open to the outside",
          },
          { value: "living", text: "where people live", title: "cabin, tent, bedroom" },
          { value: "engine", text: "beside an engine" },
        ]}
        onChange={(place) => set({ housing: { ...housing, place } }, "moved the battery")}
      />
      <Switch
        label="The box’s walls conduct"
        hint="Metal, or damp wood."
        checked={housing.metal}
        onChange={(metal) => set({ housing: { ...housing, metal } }, "changed the housing")}
      />
      <Switch
        label="Posts are covered"
        checked={housing.posts_covered}
        onChange={(posts_covered) =>
          set({ housing: { ...housing, posts_covered } }, "changed the housing")
        }
      />
      {heater && (
        <>
          <Fields
            model="Heater"
            part={heater}
            specs={[
              { kind: "number", key: "power_w", text: "Heater pads" },
              { kind: "number", key: "on_below_c", text: "on below", unit: "°C" },
              { kind: "number", key: "off_above_c", text: "off above", unit: "°C" },
            ]}
            onChange={(next) => set({ heater: next }, "changed the heater")}
          />
          <p className="text-sm text-ash">
            {endurance.heater_night
              ? `The pads take up to ${amountText(endurance.heater_night, unit)} ${unit} in one night, and ${amountText(endurance.heater, unit)} ${unit} on this trip.`
              : "The pads never come on under the expected sky."}
          </p>
          <Switch
            label="The pads are on"
            checked={heater.on}
            onChange={(on) => set({ heater: { ...heater, on } }, "switched the pads")}
          />
          <Button
            className="self-start"
            onClick={() => set({ heater: null }, "removed the heater pads")}
          >
            Remove the pads
          </Button>
        </>
      )}
    </div>
  );
}
