import { useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { BlockKind } from "../../api/client";
import { useCursor, usePlanState, usePlanStore } from "../../plan/context";
import { useLog, useTrack } from "../../plan/useLog";
import { Button } from "../../ui/Button";
import { addBlock, addDay, blockFacts, usefulKinds } from "./board/blocks/blocks";
import { DayBoard } from "./board/DayBoard";
import { CurveView } from "./curve/CurveView";
import { Legend } from "./Legend";
import { TripChoices } from "./TripChoices";
import { TripHead } from "./TripHead";
import { TripMonths } from "./TripMonths";
import { TripStrip } from "./TripStrip";
import { Why } from "./Why";

/** Above so many days the page shows a window on the trip: of the curve, and of its rows. */
const MOST_ON_CURVE = 31;
const MOST_ROWS = 21;
const WINDOW_DAYS = 14;
/** From so many days on the whole trip is drawn month by month. */
const MONTHS_FROM = 45;
const ADD_KEYS: Record<string, BlockKind> = { d: "drive", h: "hookup", p: "panel_out" };
const ALL_DAYS = "days";

/** The whole trip as one curve with a chosen day below it, or a row for every day. */
export function TripPage() {
  const store = usePlanStore();
  const { draft, run, asPlanned } = usePlanState();
  const { verdict } = run;
  const [cursor, setCursor] = useCursor();
  const [query, setQuery] = useSearchParams();
  const rows = query.get("view") === ALL_DAYS;
  const asked = draft.trip.blocks.find((one) => one.id === query.get("block"));
  const [wanted, setChosen] = useState(asked?.day ?? verdict.lowest_day);
  const days = run.days.length;
  const chosen = Math.min(wanted, days - 1);
  const long = days > (rows ? MOST_ROWS : MOST_ON_CURVE);
  const count = long ? WINDOW_DAYS : days;
  const [wantedFirst, setFirst] = useState(() => Math.max(chosen - 6, 0));
  const Overview = days > MONTHS_FROM ? TripMonths : TripStrip;
  const first = long ? Math.min(wantedFirst, days - count) : 0;
  const entries = useLog();
  const followed = useTrack();
  const track = followed?.begun && !asPlanned ? followed : null;
  const shownRun = useMemo(() => (track ? { ...run, odds: track.rest } : run), [run, track]);

  function choose(day: number) {
    setChosen(day);
    if (day < first || day >= first + count) setFirst(Math.max(day - 6, 0));
    if (cursor.day !== day) setCursor({ day, minute: cursor.minute });
  }

  function add(kind: BlockKind, day: number, minute?: number) {
    const [next] = addBlock(store.snapshot().draft, kind, day, minute);
    store.commit(next, `added a ${blockFacts(kind).text}`);
    if (day !== chosen) choose(day);
  }

  // The key handler must see the newest cursor without being bound anew on every move.
  const latest = useRef({ add, cursor });
  latest.current = { add, cursor };
  useEffect(() => {
    function key(event: KeyboardEvent) {
      const kind = ADD_KEYS[event.key.toLowerCase()];
      const typing = event.target instanceof HTMLElement && event.target.tagName === "INPUT";
      if (!kind || typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (document.querySelector("[role=dialog],[role=menu]")) return;
      event.preventDefault();
      const at = latest.current.cursor;
      latest.current.add(kind, at.day, at.minute);
    }
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);

  const shown = { first, count, plan: draft, run: shownRun, entries, track, cursor };
  return (
    <>
      <TripHead track={followed?.begun ? followed : null} />
      <TripChoices track={followed?.begun ? followed : null} />
      {long && (
        <Overview
          run={run}
          floor={draft.trip.floor_percent}
          first={first}
          count={count}
          onFirst={(next) => {
            const day = Math.min(Math.max(chosen, next), next + count - 1);
            setFirst(next);
            setChosen(day);
            setCursor({ day, minute: cursor.minute });
          }}
        />
      )}
      {rows ? (
        <DayBoard {...shown} onCursor={setCursor} />
      ) : (
        <CurveView
          {...shown}
          onCursor={setCursor}
          chosen={chosen}
          onChoose={choose}
          onAllDays={() => setQuery({ view: ALL_DAYS })}
        />
      )}
      <div className="mt-3 flex flex-wrap items-center gap-2 px-1">
        {usefulKinds(draft).map((kind) => (
          <Button key={kind} onClick={() => add(kind, rows ? cursor.day : chosen)}>
            <span aria-hidden="true">+</span> {blockFacts(kind).text}
          </Button>
        ))}
        <Button
          onClick={() => store.edit((old) => addDay(old, old.trip.days.length - 1), "added a day")}
        >
          <span aria-hidden="true">+</span> day
        </Button>
        {rows && (
          <Button look="link" onClick={() => setQuery({})}>
            one curve
          </Button>
        )}
        <Legend box={draft.box} rows={rows} />
      </div>
      <Why />
    </>
  );
}
