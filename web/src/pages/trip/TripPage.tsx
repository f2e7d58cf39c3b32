import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { answer, type BlockKind, type Box, client } from "../../api/client";
import { useCursor, usePlanState, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Figure } from "../../plan/sums";
import { useLog, useTrack } from "../../plan/useLog";
import { unbroken } from "../../quantities/units";
import { patternOf, SOURCES } from "../../sources";
import { Button } from "../../ui/Button";
import { addBlock, addDay, blockFacts, freshId, usefulKinds } from "./board/blocks/blocks";
import { DayBoard } from "./board/DayBoard";
import { NowLine } from "./NowLine";
import { ForecastButton } from "./place/ForecastButton";
import { Roads } from "./place/Roads";
import { TripSettings } from "./place/TripSettings";
import { SKY_SAYS, SkyChoice } from "./SkyChoice";
import { TripMonths } from "./TripMonths";
import { TripStrip } from "./TripStrip";

/** Above this many days the board is a window on the trip. */
const MAX_ROWS = 21;
const WINDOW_ROWS = 14;
/** From so many days on the whole trip is drawn month by month. */
const MONTHS_FROM = 45;
/** Below this the page leads on to what would help. */
const SURE_PERCENT = 95;
const ADD_KEYS: Record<string, BlockKind> = { d: "drive", h: "hookup", p: "panel_out" };

export function TripPage() {
  const store = usePlanStore();
  const { draft, run, asPlanned } = usePlanState();
  const { verdict } = run;
  const [shown, setCursor] = useCursor();
  const long = run.days.length > MAX_ROWS;
  const count = long ? WINDOW_ROWS : run.days.length;
  const asked = useSearchParams()[0].get("block");
  const [chosenFirst, setFirst] = useState(() => {
    const block = draft.trip.blocks.find((one) => one.id === asked);
    return Math.max((block?.day ?? verdict.lowest_day) - 6, 0);
  });
  const Overview = run.days.length > MONTHS_FROM ? TripMonths : TripStrip;
  const first = long ? Math.min(chosenFirst, run.days.length - count) : 0;
  const entries = useLog();
  const followed = useTrack();
  const track = followed?.begun && !asPlanned ? followed : null;
  const shownRun = useMemo(() => (track ? { ...run, odds: track.rest } : run), [run, track]);

  function add(kind: BlockKind, minute?: number) {
    const [next] = addBlock(store.snapshot().draft, kind, shown.day, minute);
    store.commit(next, `added a ${blockFacts(kind).text}`);
  }

  // The key handler must see the newest cursor without being bound anew on every move.
  const latest = useRef({ add, shown });
  latest.current = { add, shown };
  useEffect(() => {
    function key(event: KeyboardEvent) {
      const kind = ADD_KEYS[event.key.toLowerCase()];
      const typing = event.target instanceof HTMLElement && event.target.tagName === "INPUT";
      if (!kind || typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (document.querySelector("[role=dialog],[role=menu]")) return;
      event.preventDefault();
      latest.current.add(kind, latest.current.shown.minute);
    }
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);

  return (
    <>
      <div className="px-1 pt-3 pb-2">
        {followed?.begun && (
          <NowLine track={followed} planned={asPlanned} onPlanned={store.showPlan} />
        )}
        {!followed?.begun || asPlanned ? <PlanText /> : null}
        <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-2">
          {track ? <MendOnward /> : <MendPlan />}
          <span className="hidden flex-1 sm:block" />
          <SkyChoice />
          <ForecastButton />
          <TripSettings />
          <Roads />
        </div>
      </div>
      {long && (
        <Overview
          run={run}
          floor={draft.trip.floor_percent}
          first={first}
          count={count}
          onFirst={(next) => {
            setFirst(next);
            setCursor({ ...shown, day: Math.min(Math.max(shown.day, next), next + count - 1) });
          }}
        />
      )}
      <DayBoard
        first={first}
        count={count}
        plan={draft}
        run={shownRun}
        entries={entries}
        track={track}
        cursor={shown}
        onCursor={setCursor}
      />
      <div className="mt-3 flex flex-wrap items-center gap-2 px-1">
        {usefulKinds(draft).map((kind) => (
          <Button key={kind} onClick={() => add(kind)}>
            <span aria-hidden="true">+</span> {blockFacts(kind).text}
          </Button>
        ))}
        <Button
          onClick={() => store.edit((old) => addDay(old, old.trip.days.length - 1), "added a day")}
        >
          <span aria-hidden="true">+</span> day
        </Button>
        <Legend box={draft.box} />
      </div>
      <p className="mt-2 px-1 text-sm text-ash">
        Drag a block to move it, its ends to stretch it, the dashed line to move your reserve. With
        a block in focus: arrows move, shift stretches, delete removes. D, H and P put a drive, a
        hook-up and a panel at the cursor.{" "}
        {run.odds &&
          `In 8 trips of 10 the level stays in the band. ${run.odds.scenarios} trips were tried, each with its own weather${
            run.odds.step_min > (run.series?.step_min ?? 0)
              ? " at coarser steps, while you drag"
              : ""
          }.`}
      </p>
    </>
  );
}

/** The shortest drive that mends the plan, and the way to what would make it surer. */
function MendPlan() {
  const store = usePlanStore();
  const { run, plan } = usePlanState();
  const { verdict } = run;

  function mend() {
    const { mend } = verdict;
    if (!mend) return;
    store.edit((old) => {
      const id = freshId(
        "m",
        old.trip.blocks.map((block) => block.id),
      );
      const block = {
        id,
        kind: "drive" as const,
        day: mend.day,
        start: mend.start,
        end_day: null,
        end: mend.end,
        idling: false,
      };
      return { ...old, trip: { ...old.trip, blocks: [...old.trip.blocks, block] } };
    }, `added a drive of ${mend.minutes} min`);
  }

  return (
    <>
      {verdict.mend && (
        <>
          <Button className="border-vehicle" onClick={mend} title="Try it">
            <span aria-hidden="true" className="size-3 rounded-sm bg-vehicle" />
            {verdict.mend.text}
          </Button>
          {verdict.mend.lasts_percent != null && (
            <span className="text-sm text-ash">
              then in {Math.round(verdict.mend.lasts_percent)} of 100
            </span>
          )}
        </>
      )}
      {run.odds && run.odds.lasts_percent < SURE_PERCENT && (
        <Link className="text-sm underline" to={`/plan/${plan.id}/improve`}>
          Improve your chances
        </Link>
      )}
    </>
  );
}

/** The shortest drive that makes the rest of the trip likely to last, from now. */
function MendOnward() {
  const store = usePlanStore();
  const { plan } = usePlanState();
  const mend = useQuery({
    queryKey: ["track", plan.id, plan.revision, "mend"],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/track/mend", { params: { path: { plan_id: plan.id } } }),
      ),
    placeholderData: (before) => before,
  });
  const sought = mend.data;
  if (!sought) return null;
  const remedy = sought.value == null ? null : sought.try_it;
  return (
    <>
      <span data-testid="mend-onward">{sought.text}</span>
      {remedy && (
        <Button
          className="border-vehicle"
          onClick={() => store.edit((old) => withRemedy(old, remedy), "added a drive")}
        >
          <span aria-hidden="true" className="size-3 rounded-sm bg-vehicle" />
          Apply
        </Button>
      )}
    </>
  );
}

/** The answer about the whole plan, and how it comes about. */
function PlanText() {
  const { run } = usePlanState();
  const { verdict } = run;
  return (
    <div aria-live="polite">
      <h1 className="text-2xl leading-tight" data-testid="headline">
        {run.headline}
      </h1>
      {run.odds && (
        <p>
          <span data-testid="odds">{unbroken(run.odds.detail)}</span>{" "}
          <Figure of="odds" className="text-sm text-ash">
            the odds
          </Figure>
        </p>
      )}
      <p className="text-ash">
        <span data-testid="detail">
          <span className="font-semibold">{SKY_SAYS[run.sky]}:</span>{" "}
          {verdict.headline !== run.headline && `${verdict.headline} `}
          {unbroken(verdict.detail)}
        </span>{" "}
        <span className="text-sm">
          <Figure of="lowest">the lowest point</Figure> ·{" "}
          <Figure of="ledger">the whole trip’s sum</Figure> ·{" "}
          <Figure of="alone">with no charging</Figure>
        </span>
      </p>
    </div>
  );
}

function Legend({ box }: { box: Box }) {
  const kinds = SOURCES.filter(({ key }) => box[key].length > 0);
  const marks: [string, string][] = [
    ["var(--color-level)", "battery level"],
    ["url(#pat-band)", "8 trips of 10"],
    ...kinds.map(({ key, text, block }): [string, string] => [
      patternOf(key),
      key === "vehicle" ? text : (block?.text ?? text),
    ]),
    ["var(--color-use)", "use"],
    ["url(#pat-below)", "under your reserve"],
  ];
  return (
    <ul className="ml-auto flex flex-wrap gap-x-4 gap-y-1 text-sm text-ash" aria-label="Legend">
      {marks.map(([fill, text]) => (
        <li key={text} className="flex items-center gap-1.5">
          <svg width="16" height="10" aria-hidden="true">
            <rect width="16" height="10" rx="2" fill={fill} />
          </svg>
          {text}
        </li>
      ))}
      <li className="flex items-center gap-1.5">
        <svg width="10" height="10" aria-hidden="true">
          <path
            d="M5,.8l4.2,4.2l-4.2,4.2l-4.2,-4.2z"
            fill="var(--color-plate)"
            stroke="var(--color-ink)"
            strokeWidth="1.4"
          />
        </svg>
        reading
      </li>
    </ul>
  );
}
