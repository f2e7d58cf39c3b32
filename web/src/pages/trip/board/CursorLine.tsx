import { type KeyboardEvent, useLayoutEffect, useRef, useState } from "react";
import type { Odds, RunReport } from "../../../api/client";
import type { Cursor } from "../../../plan/context";
import { clockOf } from "../../../quantities/clock";
import { clockText, degreesText, type Habits } from "../../../quantities/habits";
import { hoursText, percentText } from "../../../quantities/units";
import { useHabits } from "../../../quantities/useHabits";

const MAX_TOLD_H = 14 * 24;

/** How long the box would last from here with no source at all, at the nearest mark before. */
function withoutSources(run: RunReport, step: number): string {
  const mark = run.endurance.autonomy.findLast((other) => other.step <= step);
  if (!mark) return "";
  // Longer than that is told from the trip's last day alone: no figure for it.
  return mark.hours == null || mark.hours > MAX_TOLD_H
    ? "with no charging it lasts weeks"
    : `with no charging it lasts ${hoursText(mark.hours)}`;
}

interface Props {
  cursor: Cursor;
  run: RunReport;
  left: number;
  width: number;
  label: string;
  onKeyDown: (event: KeyboardEvent) => void;
}

/** A line through one moment, with what the box does then. The handle takes the arrow keys. */
export function CursorLine({ cursor, run, left, width, label, onKeyDown }: Props) {
  const ref = useRef<HTMLDivElement>(null);
  const [rowTop, setRowTop] = useState({ top: 0, height: 0 });
  const habits = useHabits();
  const day = run.days[cursor.day];
  const series = run.series;

  useLayoutEffect(() => {
    const board = ref.current?.parentElement;
    const plot = board?.querySelector(`[data-plot="${cursor.day}"]`);
    if (!board || !plot) return;
    const outer = board.getBoundingClientRect();
    const inner = plot.getBoundingClientRect();
    setRowTop({ top: inner.top - outer.top, height: inner.height });
  }, [cursor.day]);

  if (!day || !series) return null;
  const step =
    day.first_step + Math.min(Math.floor(cursor.minute / series.step_min), day.steps - 1);
  const x = left + (cursor.minute / day.minutes) * width;
  const told = momentOf(run, cursor, label, habits);
  if (!told) return null;
  const { when, level, volts, amps, warmth, floor, alone } = told;

  return (
    <div ref={ref} className="pointer-events-none absolute inset-0 z-10">
      <div className="absolute inset-y-0 w-px bg-rim/25" style={{ left: x }} />
      <div
        className="absolute w-0.5 -translate-x-px bg-rim"
        style={{ left: x, top: rowTop.top, height: rowTop.height }}
      />
      <div
        role="slider"
        tabIndex={0}
        aria-label="Cursor over the trip"
        aria-valuemin={0}
        aria-valuemax={series.volts.length - 1}
        aria-valuenow={step}
        aria-valuetext={`${when}: ${level}, ${volts}, ${amps}, battery at ${warmth}, ${floor}${alone ? `, ${alone}` : ""}`}
        className="pointer-events-auto absolute -top-2 size-3 -translate-x-1/2 rotate-45 rounded-[3px] bg-rim"
        style={{ left: x }}
        onKeyDown={onKeyDown}
      />
    </div>
  );
}

/** What the box does at one moment, in words. */
export function momentOf(run: RunReport, cursor: Cursor, label: string, habits: Habits) {
  const day = run.days[cursor.day];
  const { series } = run;
  if (!day || !series) return null;
  const step =
    day.first_step + Math.min(Math.floor(cursor.minute / series.step_min), day.steps - 1);
  const net = series.net_a[step] ?? 0;
  const toFloor = series.hours_to_floor[step];
  const level = percentText(series.level_percent[step] ?? 0);
  const amps = `${net < 0 ? "−" : "+"}${Math.abs(net).toFixed(1)} A`;
  const floor =
    toFloor == null
      ? "stays above your reserve"
      : toFloor === 0
        ? "under your reserve"
        : `${hoursText(toFloor)} to your reserve`;
  const volts = `${(series.volts[step] ?? 0).toFixed(1)} V`;
  const warmth = degreesText(series.battery_c[step] ?? 0, habits);
  const alone = toFloor === 0 ? "" : withoutSources(run, step);
  const when = `${label}, ${clockText(clockOf(cursor.minute), habits)}`;
  const band = run.odds && bandAt(run.odds.band, step * series.step_min);
  return { when, level, volts, amps, warmth, floor, alone, band };
}

/** The same as text above the board, where it hides nothing and, of one height, moves nothing. */
export function CursorNote({ cursor, run, label }: Pick<Props, "cursor" | "run" | "label">) {
  const told = momentOf(run, cursor, label, useHabits());
  if (!told) return null;
  const { when, level, volts, amps, warmth, floor, alone, band } = told;
  return (
    <p
      data-testid="cursor"
      className="h-[4.2rem] overflow-hidden leading-snug sm:h-[2.8rem] lg:h-[1.6rem]"
    >
      <strong>
        {when} · {level}
      </strong>{" "}
      <span className="text-ash">
        · {volts} · {amps} · {warmth} · {floor}
        {band && ` · ${band[0]} to ${band[1]} % in 8 of 10 tries`}
        {alone && ` · ${alone}`}
      </span>
    </p>
  );
}

/** The band's edges at so many minutes after the start, as whole percents. */
function bandAt(band: Odds["band"], minute: number): [number, number] {
  const at = Math.min(Math.round(minute / band.step_min), band.low.length - 1);
  const whole = (level: number | undefined) => Math.round(Math.max(level ?? 0, 0));
  return [whole(band.low[at]), whole(band.high[at])];
}
