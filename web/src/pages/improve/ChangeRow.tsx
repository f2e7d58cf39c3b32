import type { Weighed, Weighing } from "../../api/client";
import { Figure } from "../../plan/sums";
import { moneyText, weightText } from "../../quantities/habits";
import { hoursText } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { lookOf, patternOf } from "../../sources";
import { Button } from "../../ui/Button";
import { PriceSheet } from "./PriceSheet";

const OTHERS: Record<string, string> = { battery: "var(--color-level)", use: "var(--color-use)" };

interface Props {
  weighed: Weighed;
  base: Weighing;
  /** Whether its figures are of an earlier plan, and new ones are on the way. */
  old: boolean;
  onTry: () => void;
  onKeep: () => void;
}

/** One change: what it is, what it buys, weighs and costs. */
export function ChangeRow({ weighed, base, old, onTry, onKeep }: Props) {
  const { change, clear } = weighed;
  const points = Math.round(weighed.points);
  const low = Math.round(weighed.low_points);
  return (
    <li
      aria-busy={old}
      className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 py-2 aria-busy:opacity-60 sm:grid-cols-[19rem_1fr_8.5rem_auto]"
    >
      <span className="flex items-center gap-2">
        <svg
          width="12"
          height="16"
          className="shrink-0"
          role="img"
          aria-label={lookOf(change.group)?.text ?? change.group}
        >
          <rect
            width="12"
            height="16"
            rx="3"
            fill={OTHERS[change.group] ?? patternOf(change.group)}
          />
        </svg>
        <span className="font-medium">{change.text}</span>
      </span>
      <span className="order-last col-span-2 sm:order-none sm:col-span-1">
        <Ladder from={base.lasts_percent} to={weighed.lasts_percent} clear={clear} />
        <span className="block text-sm text-ash">
          lasts in{" "}
          <Figure
            of={weighed.sum}
            className="font-bold text-ink"
            label={`${Math.round(weighed.lasts_percent)} of 100: ${change.text}`}
          >
            {Math.round(weighed.lasts_percent)} of 100
          </Figure>{" "}
          {clear ? `(${signed(points)})` : "(no clear difference)"} · worst of ten down to{" "}
          {Math.round(weighed.lowest.low)} %{low === 0 ? "" : ` (${signed(low)})`}
          {Math.abs(points) < 1 && weighed.less_dark_h >= 0.5
            ? ` · ${hoursText(weighed.less_dark_h)} less cut out`
            : Math.abs(points) < 1 && weighed.less_under_h >= 0.5
              ? ` · ${hoursText(weighed.less_under_h)} less under your reserve`
              : ""}
        </span>
      </span>
      <span className="text-right text-sm sm:text-left">
        {change.saves ? <Saved change={change} /> : <PriceSheet change={change} />}
      </span>
      <span className="order-last col-span-2 flex gap-2 sm:order-none sm:col-span-1">
        <Button onClick={onTry} aria-label={`Try: ${change.text}`}>
          Try
        </Button>
        <Button onClick={onKeep} aria-label={`Keep: ${change.text}`}>
          Keep
        </Button>
      </span>
    </li>
  );
}

/** What is left out need not be bought or carried. */
function Saved({ change }: { change: Weighed["change"] }) {
  const habits = useHabits();
  const { euro, kg } = change;
  return (
    <span>
      {kg && `saves ${weightText(kg.low, habits)} to ${weightText(kg.high, habits)}`}
      {kg && euro && `, ${moneyText(habits, euro.low, euro.high)}`}
    </span>
  );
}

function signed(points: number): string {
  return points < 0 ? `−${-points}` : `+${points}`;
}

/** From how often it lasts now to how often it would, on a rail of a hundred skies. */
function Ladder({ from, to, clear }: { from: number; to: number; clear: boolean }) {
  const left = Math.min(from, to);
  return (
    <svg width="100%" height="14" aria-hidden="true" preserveAspectRatio="none">
      <rect y="5" width="100%" height="4" rx="2" fill="var(--color-line)" />
      <rect y="5" width={`${left}%`} height="4" rx="2" fill="var(--color-level-tint)" />
      <rect
        x={`${left}%`}
        y="2"
        width={`${Math.abs(to - from)}%`}
        height="10"
        rx="2"
        fill={
          clear ? (to >= from ? "var(--color-level)" : "var(--color-danger)") : "url(#pat-quiet)"
        }
      />
      <rect x={`${from}%`} width="2" height="14" fill="var(--color-ink)" />
    </svg>
  );
}
