import { useMemo, useState } from "react";
import { answer, client, refusalIn, type Sized, type SizesStart } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { moneyText, weightText } from "../../quantities/habits";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";
import { type Brush, SizesPlot } from "./SizesPlot";
import { useLines } from "./useLines";

type Line =
  | SizesStart
  | { kind: "part"; done: number; designs: Sized[] }
  | { kind: "end"; front: Sized[] };
const MAX_LISTED = 12;

/** A search over sizes: what is cheap, light and sure, with the plan's own place among it. */
export function Sizes() {
  const store = usePlanStore();
  const document = usePlanPart((state) => state.plan.document);
  const habits = useHabits();
  const { lines, busy, text, ask, cancel } = useLines<Line>();
  const [brush, setBrush] = useState<Brush | null>(null);
  const start = lines.find((line) => line.kind === "start");
  const end = lines.find((line) => line.kind === "end");
  const done = lines.reduce((most, line) => (line.kind === "part" ? line.done : most), 0);
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
    .toSorted((a, b) => b.lasts_percent - a.lasts_percent || a.euro - b.euro)
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
      <h1 className="text-2xl leading-tight" data-testid="headline">
        {end && start
          ? `${end.front.length} of ${start.designs} sizes are worth a look.`
          : "Which sizes suit this use and trip?"}
      </h1>
      <p className="mb-3 text-ash">
        {start
          ? `Each mix was tried on at least 24 trips at steps of ${start.step_min} min; those not soon behind a cheaper, lighter, surer one through ${start.scenarios}. Prices are typical of plain parts, panels with a controller that suits.`
          : "Panel, battery, DC-DC and mains charger in some two thousand mixes, over the same weather."}
      </p>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <Button
          look="main"
          onClick={() => {
            setBrush(null);
            ask("/api/improve/sizes", document);
          }}
        >
          {start ? "Search again" : "Search"}
        </Button>
        {busy && (
          <>
            <progress value={done} max={1} aria-label="Search" />
            <Button onClick={cancel}>Stop</Button>
          </>
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
                  aria-label={`Keep ${wordsOf(design)}`}
                  onClick={() => void take(design, true)}
                >
                  Keep
                </Button>
              </span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
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
