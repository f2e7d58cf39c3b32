import { useState } from "react";
import { useBench, useBenchState, useUnit } from "../../app/context";
import { useReference } from "../../app/useReference";
import { dayName } from "../../quantities/clock";
import { inUnit } from "../../quantities/units";
import { Choice } from "../../ui/Choice";
import { BatterySheet } from "./BatterySheet";
import { MainsSheet } from "./MainsSheet";
import { InverterSheet, JoiningSheet, UnitSheet, WarmthSheet } from "./OtherSheets";
import { PartsBar } from "./PartsBar";
import { ADDABLE, type Addable, addPart, exists, type PartKey } from "./parts";
import { RibbonDrawing } from "./RibbonDrawing";
import { SunSheet } from "./SunSheet";
import { VehicleSheet } from "./VehicleSheet";

/** The box drawn as ribbons and necks, with the sheet of the chosen part beside it. */
export function BoxPage() {
  const bench = useBench();
  const unit = useUnit();
  const { draft, run } = useBenchState();
  const fresh = useReference()?.fresh;
  const [shown, setShown] = useState("trip");
  const [part, setPart] = useState<PartKey>("battery");
  const index = shown === "trip" ? -1 : Number(shown);
  const day = run.days[index] ?? null;
  const { box } = draft;
  const chosen = exists(box, part) ? part : "battery";

  function add(what: Addable) {
    if (!fresh) return;
    const [next, key] = addPart(bench.snapshot().draft, what, fresh);
    bench.commit(next, `added a ${ADDABLE[what]}`);
    setPart(key);
  }

  return (
    <>
      <div className="px-1 py-2" aria-live="polite">
        <h1 className="inline text-2xl" data-testid="headline">
          {run.neck.headline}
        </h1>{" "}
        <span className="text-ash">{inUnit(run.neck.detail, unit)}</span>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_20rem]">
        <section className="plate min-w-0 px-3 py-3" aria-label="The box, drawn">
          <div className="mb-2 overflow-x-auto">
            <Choice
              label="Show"
              value={shown}
              options={[
                { value: "trip", says: "whole trip" },
                ...run.days.slice(0, 14).map((other, i) => ({
                  value: String(i),
                  says: dayName(other.date),
                })),
              ]}
              onChange={setShown}
            />
          </div>
          <RibbonDrawing
            run={run}
            period={day ?? run.total}
            day={day}
            floor={draft.trip.floor_percent}
            chosen={chosen}
            onChoose={setPart}
          />
          <PartsBar box={box} chosen={chosen} onChoose={setPart} onAdd={add} />
          <p className="mt-2 text-sm text-ash">
            A ribbon is as wide as its charge on the days shown; a neck is as open as its charger’s
            limit over the hours it is on. Click a part to open its sheet.
          </p>
        </section>
        <aside className="plate px-4 py-3" aria-label="Sheet of the chosen part">
          <Sheet key={chosen} part={chosen} />
          <p className="mt-4 border-t border-line pt-2 text-sm text-ash">
            Figures come from labels and from you. Batteries and mains can burn and kill: fuse every
            wire at the battery, and leave mains wiring to licensed people and your local code.
          </p>
        </aside>
      </div>
    </>
  );
}

function Sheet({ part }: { part: PartKey }) {
  const { draft } = useBenchState();
  const { box } = draft;
  const id = part.slice(part.indexOf(":") + 1);
  const sun = part.startsWith("sun:") && box.sun.find((other) => other.id === id);
  if (sun) return <SunSheet sun={sun} />;
  const vehicle = part.startsWith("vehicle:") && box.vehicle.find((other) => other.id === id);
  if (vehicle) return <VehicleSheet vehicle={vehicle} />;
  const mains = part.startsWith("mains:") && box.mains.find((other) => other.id === id);
  if (mains) return <MainsSheet mains={mains} />;
  switch (part) {
    case "second":
      return <BatterySheet second />;
    case "warmth":
      return <WarmthSheet />;
    case "unit":
      return <UnitSheet />;
    case "joining":
      return <JoiningSheet />;
    case "inverter":
      return <InverterSheet />;
    default:
      return <BatterySheet />;
  }
}
