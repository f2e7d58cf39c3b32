import { useId, useState } from "react";
import type { Schemas } from "../api/client";
import { useUnit } from "../plan/context";
import { amountText, plainFigure } from "../quantities/units";
import { Select } from "../ui/fields/Select";
import type { Choices, Thing } from "./sentence";

type Amount = Schemas["Amount"];
type PerDay = "Ah" | "Wh" | "kWh a year";

interface Props {
  name: string;
  usual: Choices["things"][number];
  thing: Thing;
  /** What it takes a day in the answer that stands; absent until there is one. */
  use: Amount | undefined;
  open: boolean;
  onChange: (part: Partial<Thing>) => void;
}

const BATTERY_V = 12.8;
const MOST_WH = 20000;
const WAYS: readonly { value: PerDay; text: string }[] = [
  { value: "Ah", text: "Ah a day" },
  { value: "Wh", text: "Wh a day" },
  { value: "kWh a year", text: "kWh a year" },
];

/** Its three figures: what it takes a day, as a meter or an energy label tells, or watts and hours. */
export function ThingFigures({ name, usual, thing, use, open, onChange }: Props) {
  const unit = useUnit();
  const one = use && { ah: use.ah / thing.count, wh: use.wh / thing.count };
  const watts = thing.power_w ?? usual.power_w;
  const hours = { start: usual.start, end: usual.end, ...thing.hours };
  const daily = one ? `${amountText(one, unit)} ${unit} a day` : null;
  const always = hours.end === "24:00" && hours.start === "00:00";
  const runs = always
    ? `${plainFigure(watts)} W`
    : `${plainFigure(watts)} W, ${hours.start} to ${hours.end}`;
  return (
    <details className="mb-1 ml-6 text-sm" open={open || undefined}>
      <summary className="cursor-pointer py-1 text-ash">
        {[daily, thing.wh_a_day == null && runs].filter(Boolean).join("; ")}
      </summary>
      <div className="flex flex-col gap-2 pb-1">
        <PerDayField name={name} thing={thing} use={one} onChange={onChange} />
        <div className="flex flex-wrap items-center gap-2">
          <label className="flex items-center gap-1.5">
            or
            <input
              className="field w-20 text-right"
              inputMode="decimal"
              aria-label={`Watts of ${name}`}
              defaultValue={thing.power_w ?? ""}
              placeholder={plainFigure(usual.power_w)}
              onChange={(event) => {
                const typed = Number(event.target.value.replace(",", "."));
                if (event.target.value.trim() === "") onChange({ power_w: null });
                else if (typed >= 0.01 && typed <= 5000)
                  onChange({ power_w: typed, wh_a_day: null });
              }}
            />
            W
          </label>
          {(["start", "end"] as const).map((edge) => (
            <label key={edge} className="flex items-center gap-1.5">
              {edge === "start" ? "from" : "to"}
              <input
                type="time"
                className="field w-28"
                aria-label={`${edge === "start" ? "Start" : "End"} of ${name}`}
                value={hours[edge].replace("24:00", "00:00")}
                onChange={(event) => {
                  if (!event.target.value) return;
                  onChange({ hours: { ...hours, [edge]: event.target.value }, wh_a_day: null });
                }}
              />
            </label>
          ))}
        </div>
        {thing.id == null && <p className="text-ash">{usual.note}</p>}
      </div>
    </details>
  );
}

interface PerDayProps {
  name: string;
  thing: Thing;
  use: Amount | undefined;
  onChange: (part: Partial<Thing>) => void;
}

function PerDayField({ name, thing, use, onChange }: PerDayProps) {
  const unit = useUnit();
  const id = useId();
  const [way, setWay] = useState<PerDay>(unit);
  const volts = use && use.ah > 0 ? use.wh / use.ah : BATTERY_V;
  const perWh = way === "Ah" ? 1 / volts : way === "Wh" ? 1 : 365 / 1000;
  const [text, setText] = useState(
    thing.wh_a_day == null ? "" : plainFigure(Number((thing.wh_a_day * perWh).toPrecision(3))),
  );
  const typed = Number(text.replace(",", "."));
  const wh = typed / perWh;
  const wrong = text.trim() !== "" && !(wh > 0 && wh <= MOST_WH);
  function say(next: string, per: number) {
    setText(next);
    const figure = Number(next.replace(",", ".")) / per;
    if (next.trim() === "") onChange({ wh_a_day: null });
    else if (figure > 0 && figure <= MOST_WH)
      onChange({ wh_a_day: figure, power_w: null, hours: null });
  }
  return (
    <div>
      <div className="flex items-center gap-1.5">
        <label htmlFor={id}>Takes</label>
        <input
          id={id}
          className="field w-20 text-right"
          inputMode="decimal"
          autoComplete="off"
          aria-label={`What ${name} takes`}
          aria-invalid={wrong}
          value={text}
          placeholder={
            use && way !== "kWh a year" ? amountText(use, way) : use ? plainYear(use.wh) : ""
          }
          onChange={(event) => say(event.target.value, perWh)}
        />
        <Select
          label={`Unit of what ${name} takes`}
          hidden
          value={way}
          options={WAYS}
          onChange={(next) => {
            const per = next === "Ah" ? 1 / volts : next === "Wh" ? 1 : 365 / 1000;
            setWay(next);
            if (text.trim() !== "" && !wrong) say(text, per);
          }}
        />
      </div>
      {wrong && (
        <p role="alert" className="text-danger">
          {text} is not between 0 and {plainFigure(Math.round(MOST_WH * perWh))} {way}. What was
          there stays.
        </p>
      )}
    </div>
  );
}

function plainYear(wh: number): string {
  return plainFigure(Number(((wh * 365) / 1000).toPrecision(2)));
}
