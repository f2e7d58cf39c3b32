import { memo } from "react";
import type { Block, Plan, SkyKey } from "../../../api/client";
import { dayName } from "../../../quantities/clock";
import type { Span } from "./blocks/blocks";
import { type CanvasProps, DayCanvas } from "./DayCanvas";
import { DayFigures } from "./DayFigures";
import { DayMenu } from "./DayMenu";
import { SkyMark } from "./SkyMark";

export interface RowActions {
  pull: (block: Block, span: Span) => void;
  release: (did: string) => void;
  keyPull: (block: Block, span: Span) => void;
  remove: (block: Block) => void;
  open: (block: Block, day: number, x: number) => void;
  sky: (day: number, sky: SkyKey) => void;
  place: (day: number, place: string) => void;
  stop: (day: number, stop: string | null) => void;
  kind: (day: number, kind: Plan["trip"]["days"][number]["kind"]) => void;
  air: (day: number, part: Pick<Plan["trip"]["days"][number], "low_c" | "high_c">) => void;
  addDay: (after: number) => void;
  removeDay: (day: number) => void;
  floor: (percent: number, done: boolean) => void;
  hover: (day: number, share: number) => void;
}

interface Props extends Omit<CanvasProps, "tab"> {
  /** The largest daily amount of the trip, for the bars. */
  most: number;
}

export const DayRow = memo(function DayRow(props: Props) {
  const { most, ...canvas } = props;
  const { index, day, plan, run, track, actions } = canvas;
  const label = dayName(day.date, run.days.length > 28);
  const sky = plan.trip.days[index]?.sky ?? "usual";
  const place = plan.trip.days[index]?.place ?? "";
  const floor = plan.trip.floor_percent;

  return (
    <div
      data-day={index}
      className="grid grid-cols-[1fr_auto] items-center gap-x-2 border-b border-line/70 pb-1 last:border-b-0 sm:grid-cols-[7.4rem_2.2rem_1fr_14.5rem] sm:border-0 sm:pb-0"
    >
      <DayMenu
        label={label}
        place={place}
        day={plan.trip.days[index]}
        report={day}
        index={index}
        only={plan.trip.days.length === 1}
        stops={plan.trip.stops}
        actions={actions}
      />
      <SkyMark sky={sky} label={label} index={index} onChange={actions.sky} />
      <div className="order-last col-span-2 min-w-0 pl-[42px] sm:order-none sm:col-span-1">
        <DayCanvas {...canvas} tab={index === 0} />
      </div>
      <div className="order-last col-span-2 sm:order-none sm:col-span-1">
        <DayFigures
          day={day}
          odds={run.odds?.days[index]}
          tracked={track !== null}
          index={index}
          label={label}
          floor={floor}
          most={most}
        />
      </div>
    </div>
  );
});
