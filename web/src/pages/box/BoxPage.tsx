import { useState } from "react";
import { useSearchParams } from "react-router";
import { useCursor, usePlanState, usePlanStore } from "../../plan/context";
import { JudgementsOf } from "../../plan/judgements";
import { useReference } from "../../plan/useReference";
import { clockOf, dayName } from "../../quantities/clock";
import { clockText } from "../../quantities/habits";
import { unbroken } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { Cautions } from "../../shell/header/Caution";
import { Schools } from "../../shell/header/Schools";
import { Choice } from "../../ui/fields/Choice";
import type { Shown } from "./drawing/layout";
import { RibbonDrawing } from "./drawing/RibbonDrawing";
import { useInstant } from "./drawing/useInstant";
import { PartsBar } from "./PartsBar";
import { addPart, exists, type PartKey, switchPart } from "./parts";
import { cautionsAbout, PartSheet } from "./sheets/PartSheet";
import { WhatToSet } from "./sheets/WhatToSet";

const MAX_DAYS = 14;

/** The box drawn as ribbons and bottlenecks, with the sheet of the chosen part beside it. */
export function BoxPage() {
  const store = usePlanStore();
  const habits = useHabits();
  const { draft, run } = usePlanState();
  const fresh = useReference()?.fresh;
  const [query, setQuery] = useSearchParams();
  const [wanted, setWanted] = useState("trip");
  const [cursor] = useCursor();
  const { box } = draft;
  const asked = (query.get("part") ?? "battery") as PartKey;
  const chosen = exists(box, asked) ? asked : "battery";
  const choose = (part: PartKey) => setQuery({ part }, { replace: true });

  const cursorDay = run.days[cursor.day];
  const stepMin = run.series?.step_min ?? 5;
  const step = (cursorDay?.first_step ?? 0) + Math.floor(cursor.minute / stepMin);
  const instant = useInstant(wanted === "moment" ? step : null);
  const long = run.days.length > MAX_DAYS;
  const index = wanted === "cursor" ? cursor.day : Number(wanted);
  const day = run.days[index];
  const shown: Shown =
    wanted === "moment" && instant
      ? { kind: "moment", instant }
      : day
        ? { kind: "day", index }
        : { kind: "trip" };
  const period = shown.kind === "moment" ? shown.instant : (day ?? run.total);

  function add(what: string, text: string) {
    if (!fresh) return;
    const [next, key] = addPart(store.snapshot().draft, what, fresh);
    store.commit(next, `added a ${text}`);
    choose(key);
  }

  function toggle(part: PartKey) {
    store.edit((old) => switchPart(old, part), "switched a part");
  }

  return (
    <>
      <div className="px-1 py-2" aria-live="polite">
        <h1 className="inline text-2xl" data-testid="headline">
          {run.bottleneck.headline}
        </h1>{" "}
        <span className="text-ash">{unbroken(run.bottleneck.detail)}</span>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem]">
        <section className="plate min-w-0 px-3 py-3" aria-label="The box, drawn">
          <div className="mb-2">
            <Choice
              label="Show"
              value={wanted}
              options={[
                { value: "trip", text: "whole trip" },
                {
                  value: "moment",
                  text: `${dayName(cursorDay?.date ?? "")}, ${clockText(clockOf(cursor.minute), habits)}`,
                  title: "the moment of the level strip’s mark: drag it",
                },
                ...(long
                  ? [{ value: "cursor", text: dayName(cursorDay?.date ?? "", true) }]
                  : run.days.map((other, i) => ({ value: String(i), text: dayName(other.date) }))),
              ]}
              onChange={setWanted}
            />
          </div>
          <RibbonDrawing
            run={run}
            box={box}
            period={period}
            shown={shown}
            floor={draft.trip.floor_percent}
            chosen={chosen}
            onChoose={choose}
            onSwitch={toggle}
          />
          <PartsBar box={box} chosen={chosen} onChoose={choose} fresh={fresh} onAdd={add} />
          <p className="mt-2 text-sm text-ash">
            A ribbon is as wide as its charge on the days shown, or its current at a moment. It
            passes between two dark stops that stand as far apart as its charger’s limit; what does
            not fit is hatched before them. Press a part to open its sheet.
          </p>
        </section>
        <aside
          className="plate flex flex-col gap-3 px-4 py-3"
          aria-label="Sheet of the chosen part"
        >
          <JudgementsOf part={chosen} notes={false} />
          <PartSheet key={chosen} part={chosen} />
          {chosen !== "joining" && chosen !== "converter" && (
            <WhatToSet key={`set-${chosen}`} part={chosen} />
          )}
          <JudgementsOf part={chosen} notes />
          <Schools key={`schools-${chosen}`} part={chosen} />
          <Cautions about={cautionsAbout(box, chosen)} />
          <p className="text-sm text-ash">Figures come from labels and from you.</p>
        </aside>
      </div>
    </>
  );
}
