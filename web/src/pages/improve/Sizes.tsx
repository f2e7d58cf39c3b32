import { useEffect, useMemo, useState } from "react";
import { answer, client, refusalIn, type Sized, type SizesStart } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { type Habits, moneyText, weightText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { PageHead } from "../../ui/PageHead";
import { ImproveViews } from "./ImproveViews";
import { type Brush, SizesPlot } from "./SizesPlot";
import { useLines } from "./useLines";

type End = { kind: "end"; front: Sized[] };
type Line = SizesStart | { kind: "part"; done: number; designs: Sized[] } | End;
const MAX_LISTED = 12;

/** A search over sizes: what is cheap, light and sure, with the plan's own place among it. */
export function Sizes() {
  const store = usePlanStore();
  const document = usePlanPart((state) => state.plan.document);
  const habits = useHabits();
  const { lines, busy, stale, text, ask, cancel } = useLines<Line>();
  const [brush, setBrush] = useState<Brush | null>(null);
  const start = lines.find((line) => line.kind === "start");
  const end = lines.find((line) => line.kind === "end");
  const done = lines.reduce((most, line) => (line.kind === "part" ? line.done : most), 0);
  const [sure, setSure] = useState("90");
  useEffect(() => {
    setBrush(null);
    ask("/api/improve/sizes", document);
  }, [ask, document]);
  const choice = start && end && !stale ? cheapest(start, end, Number(sure)) : null;
  const designs = useMemo(() => {
    // A later part looks longer at some of the same sizes.
    const found = new Map<string, Sized>();
    for (const line of lines) {
      if (line.kind === "part") for (const design of line.designs) found.set(keyOf(design), design);
      if (line.kind === "end") for (const design of line.front) found.set(keyOf(design), design);
    }
    return [...found.values()];
  }, [lines]);
  const inBrush = (design: Sized) =>
    !brush ||
    (design.euro >= brush.euro[0] &&
      design.euro <= brush.euro[1] &&
      design.lasts_percent >= brush.lasts[0] &&
      design.lasts_percent <= brush.lasts[1]);
  const listed = (end?.front ?? [])
    .filter(inBrush)
    // What is sure enough stands first, the cheapest of it at the top.
    .toSorted(
      (a, b) =>
        Number(b.lasts_percent >= Number(sure)) - Number(a.lasts_percent >= Number(sure)) ||
        (a.lasts_percent >= Number(sure) ? a.euro - b.euro : b.lasts_percent - a.lasts_percent),
    )
    .slice(0, MAX_LISTED);

  async function take(design: Sized, keep: boolean) {
    const { panel_w, battery_ah, dcdc_a, mains_a } = design;
    const body = { document, panel_w, battery_ah, dcdc_a, mains_a };
    try {
      const remedy = await answer(client.POST("/api/improve/sizes/edits", { body }));
      const next = withRemedy(document, remedy);
      if (keep) store.commit(next, `sizes: ${wordsOf(design)}`);
      else store.try(next, wordsOf(design));
    } catch (error) {
      store.showProblem(refusalIn(error).problem);
    }
  }

  return (
    <section aria-label="Sizes">
      <PageHead
        answer={
          start && !stale
            ? said(start, end, sure, habits)
            : "Trying sizes of panel, battery and chargers…"
        }
        facts={
          start &&
          `${start.designs} mixes, each tried at least 24 times at steps of ${start.step_min} min, the good ones ${start.scenarios} times. Prices are typical of plain parts.`
        }
        act={
          choice && (
            <Button look="main" className="px-4" onClick={() => void take(choice, true)}>
              Take these sizes
            </Button>
          )
        }
      />
      <ImproveViews value="buy" />
      <div className="choices">
        <Choice
          label="I want to be so sure"
          value={sure}
          options={["90", "95", "98"].map((value) => ({ value, text: `${value} of 100 sure` }))}
          onChange={setSure}
        />
        {busy && (
          <>
            <progress value={done} max={1} aria-label="Search" />
            <Button onClick={cancel}>Stop</Button>
          </>
        )}
        {!busy && !end && (
          <Button onClick={() => ask("/api/improve/sizes", document)}>Search again</Button>
        )}
        {brush && <Button onClick={() => setBrush(null)}>Show all</Button>}
      </div>
      {text && (
        <p role="alert" className="plate p-4">
          {text}
        </p>
      )}
      {start && (
        <div className="plate p-3">
          <SizesPlot designs={designs} own={start.own} brush={brush} onBrush={setBrush} />
        </div>
      )}
      {end && (
        <ol className="plate mt-3 divide-y divide-line px-3 py-1" data-testid="sizes">
          {listed.length === 0 && <li className="py-2 text-ash">Nothing unbeaten lies there.</li>}
          {listed.map((design) => (
            <li
              key={keyOf(design)}
              className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 py-2 sm:grid-cols-[1fr_7rem_6rem_9rem_auto]"
            >
              <span className="font-medium">{wordsOf(design)}</span>
              <span>{moneyText(habits, design.euro_between.low, design.euro_between.high)}</span>
              <span>{weightText(design.kg, habits)}</span>
              <span>
                lasts in <b>{Math.round(design.lasts_percent)}</b> of 100
              </span>
              <span className="flex gap-2">
                <Button
                  aria-label={`Try ${wordsOf(design)}`}
                  onClick={() => void take(design, false)}
                >
                  Try
                </Button>
                <Button
                  aria-label={`Apply ${wordsOf(design)}`}
                  onClick={() => void take(design, true)}
                >
                  Apply
                </Button>
              </span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

/** The cheapest mix that is sure enough, where the box as it is is not. */
function cheapest(start: SizesStart, end: End, sure: number): Sized | null {
  if (start.own.lasts_percent >= sure) return null;
  const good = end.front.filter((design) => design.lasts_percent >= sure);
  return good.toSorted((a, b) => a.euro - b.euro)[0] ?? null;
}

/** The answer in words: what to take, how sure it is, and what it costs about. */
function said(start: SizesStart, end: End | undefined, sure: string, habits: Habits): string {
  if (start.own.lasts_percent >= Number(sure))
    return `Nothing has to be bought: as it is, it lasts in ${Math.round(start.own.lasts_percent)} of 100.`;
  if (!end) return "Trying sizes of panel, battery and chargers…";
  const choice = cheapest(start, end, Number(sure));
  if (choice)
    return `Take ${wordsOf(choice)}: ${Math.round(choice.lasts_percent)} of 100, about ${moneyText(habits, choice.euro)}.`;
  const best = end.front.toSorted((a, b) => b.lasts_percent - a.lasts_percent)[0];
  return best
    ? `No mix of these reaches ${sure} of 100. The surest is ${wordsOf(best)}: ${Math.round(best.lasts_percent)}.`
    : "No mix of these sizes helps.";
}

function keyOf({ panel_w, battery_ah, dcdc_a, mains_a }: Sized): string {
  return `${panel_w}/${battery_ah}/${dcdc_a}/${mains_a}`;
}

function wordsOf({ panel_w, battery_ah, dcdc_a, mains_a }: Sized): string {
  const parts = [
    `${battery_ah} Ah`,
    panel_w > 0 ? `${panel_w} W of panel` : "no panel",
    dcdc_a > 0 && `${dcdc_a} A DC-DC`,
    mains_a > 0 && `${mains_a} A mains`,
  ];
  return parts.filter(Boolean).join(", ");
}
