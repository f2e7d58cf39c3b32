import { useRef, useState } from "react";
import type { DayReport, Period } from "../../api/client";
import { useUnit } from "../../app/context";
import { amountIn, amountText, percentText, type Unit } from "../../quantities/units";
import { Popover } from "../../ui/Popover";
import { BooksTable } from "./BooksTable";

interface Props {
  day: DayReport;
  label: string;
  floor: number;
  /** The largest daily amount of the trip, for the bars. */
  most: number;
}

const SOURCE_INK = { sun: "bg-sun", vehicle: "bg-vehicle", mains: "bg-mains" } as const;

/** A day's figures; a click opens how they were made. */
export function DayFigures({ day, label, floor, most }: Props) {
  const unit = useUnit();
  const [open, setOpen] = useState(false);
  const back = useRef(false);
  const low = day.lowest_percent < floor;
  const button = (
    <button
      type="button"
      // The sheet is only there while it is open, for nine of them would slow every drag; so
      // the focus that it gives back must be taken here.
      // biome-ignore lint/a11y/noAutofocus: gives focus back, never steals it
      autoFocus={back.current}
      onClick={open ? undefined : () => setOpen(true)}
      className="grid w-full grid-cols-[1fr_1fr_1fr_1.15fr] items-center gap-x-2 rounded-lg px-1 text-right hover:bg-line/40"
      aria-label={`${label}: in ${amountText(day.taken, unit)} ${unit}, out ${amountText(day.used, unit)} ${unit}, net ${amountText(day.net, unit, true)} ${unit}, lowest ${percentText(day.lowest_percent)}. Open the sum`}
    >
      <Figure caption="in">{amountText(day.taken, unit)}</Figure>
      <Figure caption="out">{amountText(day.used, unit)}</Figure>
      <Figure caption="net" ink={amountIn(day.net, unit) < 0 ? "text-danger" : "text-level"}>
        {amountText(day.net, unit, true)}
      </Figure>
      <Figure caption="lowest" ink={low ? "text-danger" : ""}>
        <span data-testid="lowest">{percentText(day.lowest_percent)}</span>
        {low && <span className="sr-only">, under the floor</span>}
      </Figure>
      <span className="col-span-4 mt-0.5 hidden sm:block">
        <Bars day={day} unit={unit} most={most} />
      </span>
    </button>
  );
  if (!open) return button;
  return (
    <Popover
      title={`${label}: where it came from and went`}
      side="left"
      align="center"
      open
      onOpenChange={(next) => {
        back.current = !next;
        setOpen(next);
      }}
      trigger={button}
    >
      <BooksTable period={day} />
    </Popover>
  );
}

function Figure(props: { caption: string; ink?: string; children: React.ReactNode }) {
  return (
    <span className={`font-head text-[1.02rem] leading-tight font-semibold ${props.ink ?? ""}`}>
      <span className="mr-1 font-body text-xs font-normal text-ash sm:hidden">{props.caption}</span>
      {props.children}
    </span>
  );
}

/** In, by source, over out: the same scale on every day. */
function Bars({ day, unit, most }: { day: Period; unit: Unit; most: number }) {
  const share = (value: number) => `${(100 * value) / Math.max(most, 1e-9)}%`;
  return (
    <span className="block" aria-hidden="true">
      <span className="flex h-1.5">
        {day.sources.map((source) => (
          <span
            key={source.key}
            className={SOURCE_INK[source.kind]}
            style={{ width: share(amountIn(source.taken, unit)) }}
          />
        ))}
      </span>
      <span className="mt-0.5 flex h-1.5">
        <span className="bg-use" style={{ width: share(amountIn(day.used, unit)) }} />
      </span>
    </span>
  );
}
