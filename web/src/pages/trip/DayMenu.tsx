import { memo, useState } from "react";
import { Popover } from "../../ui/Popover";
import { TextField } from "../../ui/TextField";
import type { RowActions } from "./DayRow";

interface Props {
  label: string;
  place: string;
  index: number;
  only: boolean;
  actions: Pick<RowActions, "place" | "addDay" | "removeDay">;
}

/** A day's name and place; a click opens what can be done with the day. */
export const DayMenu = memo(function DayMenu(props: Props) {
  const { label, place, index, only, actions } = props;
  const [open, setOpen] = useState(false);
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
        <button
          type="button"
          className="min-h-9 min-w-0 rounded-lg px-1 text-left leading-tight hover:bg-line/40"
          aria-label={`${label}, ${place || "no place"}: change the day`}
        >
          <span className="font-head font-bold">{label}</span>
          <span className="ml-2 truncate text-sm text-ash sm:ml-0 sm:block">{place || "–"}</span>
        </button>
      }
    >
      <TextField
        label="Place"
        value={place}
        optional
        most={60}
        onCommit={(next) => actions.place(index, next)}
      />
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="key" onClick={close(() => actions.addDay(index))}>
          Add a day after it
        </button>
        {!only && (
          <button type="button" className="key" onClick={close(() => actions.removeDay(index))}>
            Remove this day
          </button>
        )}
      </div>
    </Popover>
  );
});
