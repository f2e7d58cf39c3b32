import { type KeyboardEvent, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { Plan, RunReport } from "../../../api/client";
import { type Cursor, usePlanStore } from "../../../plan/context";
import { DAY_MIN, minutesOf } from "../../../quantities/clock";
import { GROUPS, takenBy } from "../../../sources";
import { boardActions, type Sheet } from "./boardActions";
import type { RowShape } from "./geometry";

/** So much of the hours of use fits its room: a kettle's minutes may leave it. */
const USE_SHARE = 0.97;
const STEP_MIN = 5;

/** What every picture of days needs: the currents, their scale, and what may be done with blocks. */
export function useBoard(
  plan: Plan,
  run: RunReport,
  shape: RowShape,
  onCursor: (cursor: Cursor) => void,
) {
  const store = usePlanStore();
  const [sheet, setSheet] = useState<Sheet | null>(null);
  const timer = useRef<number | undefined>(undefined);
  const { series } = run;
  const taken = useMemo(
    () => new Map(series ? GROUPS.map((group) => [group, takenBy(series, plan.box, group)]) : []),
    [series, plan.box],
  );
  const perAmp = useMemo(() => {
    if (!series) return 1;
    const sun = (taken.get("sun") ?? []).reduce((most, a) => Math.max(most, a), 1);
    const use = Math.max(quantile(series.load_a, USE_SHARE), 1);
    return Math.min(shape.sunHeight / sun, shape.useHeight / use);
  }, [series, taken, shape]);
  const latest = useRef({ days: run.days, onCursor });
  latest.current = { days: run.days, onCursor };
  const actions = useMemo(() => boardActions(store, latest, timer, setSheet), [store]);
  const opened = plan.trip.blocks.find((block) => block.id === sheet?.id);
  return { taken, perAmp, actions, sheet, setSheet, opened };
}

/** Today sends people here for other hours of one block: its sheet is open then. */
export function useAskedBlock(
  plot: RefObject<HTMLElement | null>,
  ready: boolean,
  setSheet: (sheet: Sheet) => void,
): void {
  const store = usePlanStore();
  const asked = useSearchParams()[0].get("block");
  useEffect(() => {
    const block = store.snapshot().draft.trip.blocks.find((one) => one.id === asked);
    const share = block ? minutesOf(block.start) / DAY_MIN : 0;
    const room = plot.current?.clientWidth ?? 0;
    if (ready && block) setSheet({ id: block.id, day: block.day, x: share * room });
  }, [asked, ready, store, plot, setSheet]);
}

/** Arrow keys move a cursor over the trip: along the day, and from day to day. */
export function cursorKeys(cursor: Cursor, days: number, onCursor: (cursor: Cursor) => void) {
  return (event: KeyboardEvent) => {
    const step = event.shiftKey || event.ctrlKey ? 60 : STEP_MIN;
    const by = {
      ArrowLeft: -step,
      ArrowRight: step,
      ArrowUp: -DAY_MIN,
      ArrowDown: DAY_MIN,
    }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const last = days * DAY_MIN - STEP_MIN;
    const at = Math.min(Math.max(cursor.day * DAY_MIN + cursor.minute + by, 0), last);
    onCursor({ day: Math.floor(at / DAY_MIN), minute: at % DAY_MIN });
  };
}

/** The value below which so large a share of the values lies. */
function quantile(values: readonly number[], share: number): number {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[Math.floor(share * (sorted.length - 1))] ?? 0;
}
