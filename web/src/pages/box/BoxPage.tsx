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
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { PageHead } from "../../ui/PageHead";
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
  const [chosenDay, setIndex] = useState(cursor.day);
  const index = Math.min(chosenDay, run.days.length - 1);
  const day = wanted === "day" ? run.days[index] : undefined;
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
      <PageHead answer={run.bottleneck.headline} facts={unbroken(run.bottleneck.detail)} />
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem]">
        <section className="plate min-w-0 px-3 py-3" aria-label="The box, drawn">
          <div className="mb-2 flex max-w-full items-center gap-1 overflow-x-auto">
            <Choice
              label="Show"
              oneLine
              value={wanted}
              options={[
                { value: "trip", text: "whole trip" },
                {
                  value: "moment",
                  text: `${dayName(cursorDay?.date ?? "")}, ${clockText(clockOf(cursor.minute), habits)}`,
                  title: "the moment of the level strip’s mark: drag it",
                },
                { value: "day", text: dayName(run.days[index]?.date ?? "", long) },
              ]}
              onChange={setWanted}
            />
            {[-1, 1].map((by) => (
              <Button
                key={by}
                look="bare"
                className="turn"
                aria-label={by < 0 ? "The day before" : "The day after"}
                disabled={index + by < 0 || index + by >= run.days.length}
                onClick={() => {
                  setIndex(index + by);
                  setWanted("day");
                }}
              >
                {by < 0 ? "‹" : "›"}
              </Button>
            ))}
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
