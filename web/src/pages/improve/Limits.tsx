import { useEffect } from "react";
import type { Weighed, Weighing } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Figure } from "../../plan/sums";
import { hoursText } from "../../quantities/units";
import { Button } from "../../ui/Button";
import { ChangeRow } from "./ChangeRow";
import { OnwardChoice, useOnward } from "./Onward";
import { useLines } from "./useLines";

type Line = Weighing | Weighed;
/** What is spared may cost so much certainty. */
const SPARED_POINTS = 1;

function keyOf(line: Line): string | null {
  return line.kind === "change" ? line.change.key : null;
}

/** Each change that one might make, by what it buys in odds and in lowest level. */
export function Limits() {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const document = plan.document;
  const { lines, before, busy, text, ask, cancel } = useLines(keyOf);
  const id = usePlanPart((state) => state.plan.id);
  const { track, onward, known } = useOnward();
  useEffect(() => {
    if (!known) return;
    if (onward) ask(`/api/plans/${id}/track/weigh`, undefined);
    else ask("/api/improve/weigh", document);
  }, [ask, document, id, known, onward]);
  const base = lines.find((line) => line.kind === "base");
  const found = lines.filter((line) => line.kind === "change");
  // A row stays, dimmed, until its own new line comes: a sheet opened in it is not torn away.
  const waiting = before
    .filter((line) => line.kind === "change")
    .filter((old) => !found.some((line) => line.change.key === old.change.key));
  // Leaving something at home is always an answer, and seldom the one that is looked for.
  const without = (line: Weighed) => Number(line.change.key.startsWith("without:"));
  const changes = [...found, ...waiting].toSorted(
    (a, b) =>
      without(a) - without(b) ||
      b.points - a.points ||
      b.less_dark_h - a.less_dark_h ||
      b.less_under_h - a.less_under_h ||
      b.low_points - a.low_points,
  );
  const enough = base?.enough ?? false;
  // Of a box that lasts only what it can really spare is told.
  const shown = enough
    ? changes
        .filter((line) => line.lasts_percent >= (base?.lasts_percent ?? 0) - SPARED_POINTS)
        .toSorted((a, b) => (b.change.kg?.high ?? 0) - (a.change.kg?.high ?? 0))
    : changes;
  const best = changes.find((line) => !waiting.includes(line));
  if (text) {
    return (
      <p role="alert" className="plate p-4">
        {text}
      </p>
    );
  }
  return (
    <section aria-label="What limits it">
      <h1 className="text-2xl leading-tight" data-testid="headline">
        {enough ? spared(shown.length, busy) : headline(base, best, busy)}
      </h1>
      <div className="my-2 empty:hidden">
        <OnwardChoice track={track} onward={onward} />
      </div>
      <p className="mb-3 flex flex-wrap items-center gap-x-4 text-ash">
        {base && (
          <span>
            {onward ? "From where it stands now" : "As it is"}, it lasts in{" "}
            <Figure of={base.sum}>{Math.round(base.lasts_percent)} of 100 trips</Figure>. Every
            change meets the same weather on {base.scenarios} trips, at steps of {base.step_min}{" "}
            min.
            {onward && " Only what needs no shop is weighed."}
            {base.short.dark_h + base.short.under_h >= 0.5 &&
              ` On average it is ${hoursText(base.short.under_h)} under your reserve and cut out for ${hoursText(base.short.dark_h)}.`}
          </span>
        )}
        {busy && base && (
          <>
            <progress value={found.length} max={base.changes} aria-label="Changes weighed" />
            <Button onClick={cancel}>Stop</Button>
          </>
        )}
      </p>
      {base && (
        <ol className="plate divide-y divide-line px-3 py-1" data-testid="changes">
          {shown.map((weighed) => (
            <ChangeRow
              key={weighed.change.key}
              weighed={weighed}
              old={waiting.includes(weighed)}
              base={base}
              onTry={() =>
                store.try(
                  withRemedy(document, { text: "", edits: weighed.change.edits }),
                  weighed.change.text,
                )
              }
              onKeep={() =>
                store.commit(
                  withRemedy(document, { text: "", edits: weighed.change.edits }),
                  weighed.change.text.slice(0, 120),
                )
              }
            />
          ))}
        </ol>
      )}
      <p className="mt-2 text-sm text-ash">
        A dark bar is what a change adds beyond luck; a hatched one is too small for so many trips
        to tell. Prices are typical of plain parts; press one to write your own.
      </p>
    </section>
  );
}

function spared(count: number, busy: boolean): string {
  if (count > 0) return "Nothing is needed on this trip. Each of these could stay at home:";
  return busy
    ? "Nothing is needed on this trip. Weighing what could stay at home…"
    : "Nothing is needed on this trip.";
}

function headline(base: Weighing | undefined, best: Weighed | undefined, busy: boolean): string {
  if (!base || (busy && !best)) return "Weighing what you could change…";
  const helps = best && (best.points > 0 || best.less_dark_h > 0.05 || best.less_under_h > 0.05);
  if (!best || !helps) {
    return base.lasts_percent >= 95
      ? "Nothing limits this box on this trip."
      : "No single change here makes it surer.";
  }
  const phrase = best.change.phrase;
  const subject = `${phrase.charAt(0).toUpperCase()}${phrase.slice(1)}`;
  if (best.lasts_percent >= 50 || best.points >= 5) return `${subject} would help most.`;
  return `${subject} would help most, and is not enough by itself.`;
}
