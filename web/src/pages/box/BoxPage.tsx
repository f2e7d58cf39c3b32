import { useState } from "react";
import { useBench, useBenchState, useUnit } from "../../app/context";
import { dayName } from "../../quantities/clock";
import { inUnit } from "../../quantities/units";
import { Choice } from "../../ui/Choice";
import { BatterySheet } from "./BatterySheet";
import { ChargerSheet, InverterSheet } from "./ChargerSheet";
import { addSun, FRESH_DCDC, FRESH_INVERTER, FRESH_MAINS, type PartKey, withBox } from "./parts";
import { RibbonDrawing } from "./RibbonDrawing";
import { SunSheet } from "./SunSheet";

/** The box drawn as ribbons and necks, with the sheet of the chosen part beside it. */
export function BoxPage() {
  const bench = useBench();
  const unit = useUnit();
  const { draft, run } = useBenchState();
  const [shown, setShown] = useState("trip");
  const [part, setPart] = useState<PartKey>("battery");
  const index = shown === "trip" ? -1 : Number(shown);
  const day = run.days[index] ?? null;
  const { box } = draft;
  const chosen = exists(part) ? part : "battery";

  function exists(key: PartKey): boolean {
    if (key === "battery") return true;
    if (key.startsWith("sun:")) return box.sun.some((sun) => `sun:${sun.id}` === key);
    return box[key as "dcdc" | "mains" | "inverter"] != null;
  }

  function add(key: "dcdc" | "mains" | "inverter") {
    const fresh = { dcdc: FRESH_DCDC, mains: FRESH_MAINS, inverter: FRESH_INVERTER }[key];
    bench.edit((old) => withBox(old, { [key]: fresh }), `added ${NAMES[key]}`);
    setPart(key);
  }

  const missing = (["dcdc", "mains", "inverter"] as const).filter((key) => box[key] == null);
  const sun = box.sun.find((other) => `sun:${other.id}` === chosen);

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
          <div className="mt-2 flex flex-wrap items-center gap-2">
            {box.inverter && (
              <button
                type="button"
                className={`key ${chosen === "inverter" ? "key-on" : ""}`}
                onClick={() => setPart("inverter")}
              >
                Inverter, {box.inverter.rating_w} W
              </button>
            )}
            <button
              type="button"
              className="key"
              disabled={box.sun.length >= 6}
              onClick={() => {
                const [next, key] = addSun(draft);
                bench.commit(next, "added a panel");
                setPart(key);
              }}
            >
              + panel and controller
            </button>
            {missing.map((key) => (
              <button key={key} type="button" className="key" onClick={() => add(key)}>
                + {NAMES[key]}
              </button>
            ))}
          </div>
          <p className="mt-2 text-sm text-ash">
            A ribbon is as wide as its charge on the days shown; a neck is as open as its charger’s
            limit over the hours it is on. Click a part to open its sheet.
          </p>
        </section>
        <aside className="plate px-4 py-3" aria-label="Sheet of the chosen part">
          {chosen === "battery" && <BatterySheet />}
          {sun && <SunSheet key={sun.id} sun={sun} />}
          {(chosen === "dcdc" || chosen === "mains") && (
            <ChargerSheet key={chosen} part={chosen} name={NAMES[chosen]} />
          )}
          {chosen === "inverter" && <InverterSheet />}
          <p className="mt-4 border-t border-line pt-2 text-sm text-ash">
            Figures come from labels and from you. Batteries and mains can burn and kill: fuse every
            wire at the battery, and leave mains wiring to licensed people and your local code.
          </p>
        </aside>
      </div>
    </>
  );
}

const NAMES = { dcdc: "DC-DC charger", mains: "Mains charger", inverter: "Inverter" } as const;
