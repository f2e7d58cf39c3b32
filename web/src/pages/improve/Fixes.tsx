import { useEffect, useState } from "react";
import type { Schemas, Weighed, Weighing } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Figure } from "../../plan/sums";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { Switch } from "../../ui/fields/Switch";
import { PageHead } from "../../ui/PageHead";
import { ChangeRow, MendRow } from "./ChangeRow";
import { EffortSheet, NeverSheet, useEffort } from "./Effort";
import { answerOf, bestOf, isNever, joined, type Mend, sorted } from "./fixes";
import { ImproveViews } from "./ImproveViews";
import { OnwardChoice, useOnward } from "./Onward";
import { useLines } from "./useLines";

type Line = Weighing | Weighed;
type Search = Schemas["MendProgress"] | Schemas["Mended"];
type Edits = Mend["edits"];

/** What is spared may cost so much certainty. */
const SPARED_POINTS = 1;

function keyOf(line: Line): string | null {
  return line.kind === "change" ? line.change.key : null;
}

/** What fixes it: single changes and combinations in one list, by whether they are enough. */
export function Fixes() {
  const store = usePlanStore();
  const document = usePlanPart((state) => state.plan.document);
  const id = usePlanPart((state) => state.plan.id);
  const { track, onward, known } = useOnward();
  const [sure, setSure] = useState("90");
  const [shop, setShop] = useState(false);
  const [never, setNever] = useState<readonly string[]>([]);
  const [effort, setEffort] = useEffort();
  const singles = useLines(keyOf);
  const search = useLines<Search>();
  // A change that is being saved makes another plan of it: what stands here is of the one before.
  const saving = usePlanPart((state) => state.saving);
  const old = saving || singles.stale;

  const { ask: askSingles } = singles;
  useEffect(() => {
    if (!known) return;
    if (onward) askSingles(`/api/plans/${id}/track/weigh`, undefined);
    else askSingles("/api/improve/weigh", document);
  }, [askSingles, document, id, known, onward]);
  const { ask: askSearch } = search;
  useEffect(() => {
    if (!known) return;
    const asked = { sure_percent: Number(sure), shop, never, bother: effort };
    if (onward) askSearch(`/api/plans/${id}/track/cheapest`, asked);
    else askSearch("/api/improve/mend", { document, asked });
  }, [askSearch, document, id, known, onward, sure, shop, never, effort]);

  const base = singles.lines.find((line) => line.kind === "base");
  const fresh = singles.lines.filter((line) => line.kind === "change");
  // A row stays, dimmed, until its own new line comes: a sheet opened in it is not torn away.
  const waiting = singles.before
    .filter((line) => line.kind === "change")
    .filter((old) => !fresh.some((line) => line.change.key === old.change.key));
  // A combination carries whole parts of the plan it was sought for: never into another plan.
  const mended =
    search.stale || saving ? undefined : search.lines.find((line) => line.kind === "mended");
  const progress = search.lines.findLast((line) => line.kind === "progress");
  const changes = [...fresh, ...waiting].filter((line) => !isNever(line, never));
  const found = sorted(changes, Number(sure));
  const mends = (mended?.mends ?? []).filter((mend) => mend.lasts_percent >= Number(sure));
  const texts = new Set(changes.map((line) => plain(line.change.text)));
  const together = mends.filter((mend) => mend.steps.length > 1);
  // A single step that the search found, and no change above has.
  const alone = mends.filter(
    ({ steps }) => steps.length === 1 && !texts.has(plain(steps[0] ?? "")),
  );
  const now = base?.lasts_percent ?? 0;
  const spare = base?.enough
    ? changes
        .filter((line) => line.lasts_percent >= now - SPARED_POINTS)
        .toSorted((a, b) => (b.change.kg?.high ?? 0) - (a.change.kg?.high ?? 0))
    : null;
  const enough = now >= Number(sure);

  function apply(edits: Edits, text: string, keep: boolean) {
    const next = withRemedy(document, { text: "", edits });
    if (keep) store.commit(next, text.slice(0, 120));
    else store.try(next, text);
  }
  const row = (line: Weighed) => (
    <ChangeRow
      key={line.change.key}
      weighed={line}
      old={old || waiting.includes(line)}
      base={base as Weighing}
      onTry={() => apply(line.change.edits, line.change.text, false)}
      onApply={() => apply(line.change.edits, line.change.text, true)}
    />
  );
  const mendRow = (mend: Mend) => (
    <MendRow
      key={mend.steps.join()}
      mend={mend}
      from={now}
      onTry={() => apply(mend.edits, joined(mend.steps), false)}
      onApply={() => apply(mend.edits, joined(mend.steps), true)}
    />
  );
  const settled = changes.filter((line) => !waiting.includes(line));
  const best = old ? null : bestOf(sorted(settled, Number(sure)), mends);

  const text = singles.text ?? search.text;
  return (
    <section aria-label="What fixes it?">
      <PageHead
        answer={
          !base
            ? "Weighing what you could change…"
            : spare
              ? spared(spare.length, singles.busy)
              : enough
                ? `It lasts in ${Math.round(now)} of 100: that is as sure as you want.`
                : answerOf(now, best, found, search.busy || old)
        }
        facts={
          base && (
            <>
              {onward ? "From now it lasts" : "Now it lasts"} in{" "}
              <Figure of={base.sum}>{Math.round(now)} of 100 tries</Figure>. Every change below was
              run through the same {base.scenarios} tries of weather.
              {onward && " Only what needs no shop is weighed."}
            </>
          )
        }
        act={
          best && !enough ? (
            <Button look="main" className="px-4" onClick={() => apply(best.edits, best.text, true)}>
              Apply
            </Button>
          ) : undefined
        }
      />
      <ImproveViews value="fixes" />
      <div className="choices">
        <Choice
          label="I want to be so sure"
          value={sure}
          options={["90", "95", "98"].map((value) => ({ value, text: `${value} of 100 sure` }))}
          onChange={setSure}
        />
        <OnwardChoice track={track} onward={onward} />
        <span className="hidden sm:ml-auto sm:block" />
        {!onward && <Switch label="Combinations may buy parts" checked={shop} onChange={setShop} />}
        <NeverSheet never={never} onNever={setNever} />
        <EffortSheet effort={effort} onSet={setEffort} />
      </div>
      {(singles.busy || search.busy) && (
        <p className="mb-2 flex flex-wrap items-center gap-3 text-ash">
          {singles.busy && base && (
            <progress value={fresh.length} max={base.changes} aria-label="Changes weighed" />
          )}
          {search.busy && progress && (
            <progress value={progress.tried} max={progress.of} aria-label="Combinations tried" />
          )}
          <Button
            onClick={() => {
              singles.cancel();
              search.cancel();
            }}
          >
            Stop
          </Button>
        </p>
      )}
      {text && (
        <p role="alert" className="plate p-4">
          {text}
        </p>
      )}
      {base && (
        <div className="plate overflow-hidden" data-testid="changes">
          {spare ? (
            <Group title="Could stay at home" rows={spare.map(row)} />
          ) : (
            <>
              <Group
                title="Enough on its own"
                rows={[...alone.map(mendRow), ...found.enough.map(row)]}
              />
              <Group
                title="Enough together"
                testId="mends"
                rows={together.map(mendRow)}
                empty={
                  mended && !mended.reached && !enough
                    ? `No combination reaches ${sure} of 100. ${mended.text}`
                    : search.busy && !enough
                      ? "Looking for combinations with little effort…"
                      : null
                }
              />
              <Group title="Helps, not enough" rows={found.helps.map(row)} />
              {found.others.length > 0 && (
                <details className="px-3 sm:px-4">
                  <summary className="cursor-pointer py-2 font-head font-semibold">
                    No clear difference: {found.others.length}
                  </summary>
                  <ul className="divide-y divide-line">{found.others.map(row)}</ul>
                </details>
              )}
            </>
          )}
        </div>
      )}
      <p className="mt-2 px-1 text-ash">
        A hatched bar is too small a difference for so many tries. Prices are typical of plain
        parts; press one to write your own.
      </p>
    </section>
  );
}

interface GroupProps {
  title: string;
  rows: React.ReactNode[];
  /** What is said where it has no row; without it the group is left out. */
  empty?: string | null;
  testId?: string;
}

function Group({ title, rows, empty = null, testId }: GroupProps) {
  if (rows.length === 0 && !empty) return null;
  return (
    <section
      aria-label={title}
      data-testid={testId}
      className="border-b-2 border-rim last:border-0"
    >
      <h2 className="px-3 pt-2.5 pb-1 text-lg sm:px-4">{title}</h2>
      {rows.length > 0 ? (
        <ul className="divide-y divide-line px-3 sm:px-4">{rows}</ul>
      ) : (
        <p className="px-3 pb-2 text-ash sm:px-4">{empty}</p>
      )}
    </section>
  );
}

/** The words alone: the search says the same without a colon. */
const plain = (text: string) => text.replace(/[:,]/g, "").toLowerCase();

function spared(count: number, busy: boolean): string {
  if (count > 0) return "Nothing is needed on this trip. Each of these could stay at home:";
  return busy
    ? "Nothing is needed on this trip. Weighing what could stay at home…"
    : "Nothing is needed on this trip.";
}
