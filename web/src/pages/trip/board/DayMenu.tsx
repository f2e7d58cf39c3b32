import { memo, useState } from "react";
import type { Day, DayReport, Plan } from "../../../api/client";
import { degreesText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import { NumberField } from "../../../ui/fields/NumberField";
import { Select } from "../../../ui/fields/Select";
import { TextField } from "../../../ui/fields/TextField";
import { Popover } from "../../../ui/Popover";
import type { RowActions } from "./DayRow";

interface Props {
  label: string;
  place: string;
  day: Day | undefined;
  report: DayReport;
  index: number;
  only: boolean;
  stops: Plan["trip"]["stops"];
  /** In a line of its own day, which says the degrees beside it. */
  inLine?: boolean;
  actions: Pick<RowActions, "place" | "stop" | "air" | "kind" | "addDay" | "removeDay">;
}

const HOME = "-";
const DAY_KINDS = { site: "on site", drive: "driving", rest: "rest" } as const;

/** A day's name and place; a click opens what can be done with the day. */
export const DayMenu = memo(function DayMenu(props: Props) {
  const { label, place, day, report, index, only, stops, inLine = false, actions } = props;
  const [open, setOpen] = useState(false);
  const habits = useHabits();
  const close = (work: () => void) => () => {
    setOpen(false);
    work();
  };
  return (
    <Popover
      title={label}
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button
          look="bare"
          className="min-h-9 min-w-0 rounded-lg px-1 text-left leading-tight hover:bg-line/40"
        >
          {inLine ? (
            <>
              <span className="font-head text-lg font-bold">{label}</span>{" "}
              <span className="ml-1 text-ash max-sm:sr-only">{place}</span>
            </>
          ) : (
            <>
              <span className="font-head font-bold">{label}</span>{" "}
              <span className="ml-2 truncate text-sm text-ash sm:ml-0 sm:block">
                {place || "–"}
              </span>{" "}
              <span className="ml-2 text-xs text-ash sm:ml-0 sm:block">
                {degreesText(report.air_low_c, habits, false)} to{" "}
                {degreesText(report.air_high_c, habits, false)}°
                {day && day.kind !== "site" && ` · ${DAY_KINDS[day.kind]}`}
              </span>
            </>
          )}
          <span className="sr-only">: change the day</span>
        </Button>
      }
    >
      <TextField
        label="Place"
        value={place}
        optional
        most={60}
        onCommit={(next) => actions.place(index, next)}
      />
      {stops.length > 0 && (
        <div className="mt-3">
          <Select
            label="Sun and warmth of"
            value={day?.stop ?? HOME}
            options={[
              { value: HOME, text: "the trip’s own place" },
              ...stops.map((stop) => ({ value: stop.id, text: stop.name })),
            ]}
            onChange={(next) => actions.stop(index, next === HOME ? null : next)}
          />
        </div>
      )}
      <div className="mt-3">
        <Choice
          label="Hours of use as on a"
          showLabel
          value={day?.kind ?? "site"}
          options={[
            { value: "site", text: "day on site" },
            { value: "drive", text: "driving day" },
            { value: "rest", text: "rest day" },
          ]}
          onChange={(kind) => actions.kind(index, kind)}
        />
      </div>
      <div className="mt-3 grid grid-cols-2 gap-3">
        <NumberField
          label="Coldest"
          value={day?.low_c}
          limit="Day.low_c"
          unit="°C"
          empty={degreesText(report.air_low_c, habits, false)}
          onClear={() => actions.air(index, { low_c: null })}
          onCommit={(low_c) => actions.air(index, { low_c })}
        />
        <NumberField
          label="Warmest"
          value={day?.high_c}
          limit="Day.high_c"
          unit="°C"
          empty={degreesText(report.air_high_c, habits, false)}
          onClear={() => actions.air(index, { high_c: null })}
          onCommit={(high_c) => actions.air(index, { high_c })}
        />
      </div>
      <p className="mt-2 text-sm text-ash">
        The battery is between {degreesText(report.battery_low_c, habits, false)} and{" "}
        {degreesText(report.battery_high_c, habits)}.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button onClick={close(() => actions.addDay(index))}>Add a day after it</Button>
        {!only && <Button onClick={close(() => actions.removeDay(index))}>Remove this day</Button>}
      </div>
    </Popover>
  );
});
