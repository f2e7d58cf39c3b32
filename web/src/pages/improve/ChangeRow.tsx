import type { Weighed, Weighing } from "../../api/client";
import { Figure } from "../../plan/sums";
import { moneyText, weightText } from "../../quantities/habits";
import { hoursText } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { lookOf, patternOf } from "../../sources";
import { Button } from "../../ui/Button";
import { joined, type Mend } from "./fixes";
import { PriceSheet } from "./PriceSheet";

const OTHERS: Record<string, string> = { battery: "var(--color-level)", use: "var(--color-use)" };

interface Props {
  weighed: Weighed;
  base: Weighing;
  /** Whether its figures are of an earlier plan, and new ones are on the way. */
  old: boolean;
  onTry: () => void;
  onApply: () => void;
}

/** One change: what it is, what it buys, weighs and costs. */
export function ChangeRow({ weighed, base, old, onTry, onApply }: Props) {
  const { change, clear } = weighed;
  return (
    <li aria-busy={old} className={ROW}>
      <span className="flex items-center gap-3">
        <svg
          width="12"
          height="22"
          className="shrink-0"
          role="img"
          aria-label={lookOf(change.group)?.text ?? change.group}
        >
          <rect
            width="12"
            height="22"
            rx="4"
            fill={OTHERS[change.group] ?? patternOf(change.group)}
          />
        </svg>
        <span className="font-medium">{change.text}</span>
      </span>{" "}
      <span className="col-span-2 flex flex-wrap items-center gap-x-3 sm:col-span-1">
        <Ladder from={base.lasts_percent} to={weighed.lasts_percent} clear={clear} />
        <Figure
          of={weighed.sum}
          className="whitespace-nowrap"
          label={`${Math.round(weighed.lasts_percent)} of 100: ${change.text}`}
        >
          <b>{Math.round(weighed.lasts_percent)}</b> of 100
        </Figure>
        <span className="text-sm text-ash empty:hidden">{besides(weighed)}</span>
      </span>
      <span>{change.saves ? <Saved change={change} /> : <PriceSheet change={change} />}</span>
      <Acts text={change.text} disabled={old} onTry={onTry} onApply={onApply} />
    </li>
  );
}

const ROW =
  "grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 py-2 aria-busy:opacity-60 max-sm:*:first:col-span-2 sm:grid-cols-[minmax(0,21rem)_1fr_8.5rem_auto]";

interface MendProps {
  mend: Mend;
  from: number;
  onTry: () => void;
  onApply: () => void;
}

/** A combination: its steps, and what they do together. */
export function MendRow({ mend, from, onTry, onApply }: MendProps) {
  const text = joined(mend.steps);
  return (
    <li className={ROW}>
      <span className="flex items-center gap-3">
        <svg width="12" height="22" className="shrink-0" aria-hidden="true">
          <rect width="12" height="10" rx="4" fill="var(--color-vehicle)" />
          <rect y="12" width="12" height="10" rx="4" fill="var(--color-use)" />
        </svg>
        <span className="font-medium">{text}</span>
      </span>{" "}
      <span className="col-span-2 flex flex-wrap items-center gap-x-3 sm:col-span-1">
        <Ladder from={from} to={mend.lasts_percent} clear />
        <span className="whitespace-nowrap">
          <b>{Math.round(mend.lasts_percent)}</b> of 100
        </span>
      </span>
      <span className="text-ash">
        {mend.bought ? "with parts" : mend.paid ? "costs a fee" : "free"}, effort{" "}
        {Math.round(mend.bother)}
      </span>
      <Acts text={text} onTry={onTry} onApply={onApply} />
    </li>
  );
}

interface ActsProps {
  text: string;
  /** Its figures are of an earlier plan. */
  disabled?: boolean;
  onTry: () => void;
  onApply: () => void;
}

function Acts({ text, disabled = false, onTry, onApply }: ActsProps) {
  return (
    <span className="flex items-center gap-3">
      <Button
        look="link"
        className="min-h-9 px-1"
        disabled={disabled}
        onClick={onTry}
        aria-label={`Try: ${text}`}
      >
        try
      </Button>
      <Button disabled={disabled} onClick={onApply} aria-label={`Apply: ${text}`}>
        Apply
      </Button>
    </span>
  );
}

/** What else it does where the odds alone do not show it. */
function besides(weighed: Weighed): string {
  if (Math.abs(Math.round(weighed.points)) >= 1) return weighed.clear ? "" : "no clear difference";
  if (weighed.less_dark_h >= 0.5) return `${hoursText(weighed.less_dark_h)} less without power`;
  if (weighed.less_under_h >= 0.5)
    return `${hoursText(weighed.less_under_h)} less under your reserve`;
  return weighed.clear ? "" : "no clear difference";
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

/** From how often it lasts now to how often it would, on a rail of a hundred tries. */
function Ladder({ from, to, clear }: { from: number; to: number; clear: boolean }) {
  const left = Math.min(from, to);
  return (
    <svg height="14" className="min-w-24 flex-1" aria-hidden="true" preserveAspectRatio="none">
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
