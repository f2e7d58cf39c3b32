import { usePlanPart } from "../../plan/context";
import type { ViewProps } from "./BuildPage";

const SHEETS: readonly [string, string, string][] = [
  ["booklet.pdf", "The booklet", "everything below in one file, cautions first"],
  ["circuits.pdf", "Circuits", "currents, cables, fuses, drops and what they cost"],
  ["schematic.pdf", "Wiring drawing", "sheets lying: sources, uses, bars"],
  ["schematic.svg", "Wiring drawing as SVG", "for any drawing program"],
  ["parts.pdf", "Parts", "with weights and prices"],
  ["parts.csv", "Parts as CSV", "for any spreadsheet; prices can be read back"],
  ["unit.pdf", "The unit", "what goes in and out, what to read on it"],
  ["fit.pdf", "Box fit", "plan and side view, weight and its centre"],
  ["template.pdf", "Drilling template", "1:1, with a bar to check the printer"],
  ["settings.pdf", "Settings", "what to key into every device, and why"],
  ["checks.pdf", "Checklists", "with the readings to expect"],
  ["faults.pdf", "Fault finder", "for the lid"],
];

/** Sheets that only a box that is built has, and the one that only a ready-made unit has. */
const BUILT = ["fit.pdf", "template.pdf"];
const READY = "unit.pdf";

/** Everything on paper, together or sheet by sheet. */
export function Print({ build }: ViewProps) {
  const planId = usePlanPart((state) => state.plan.id);
  const saving = usePlanPart((state) => state.saving);
  const trial = usePlanPart((state) => state.trial);
  const paper = usePlanPart((state) => state.draft.build.paper);
  const ready = build.unit.length > 0;
  const sheets = SHEETS.filter(([file]) => (ready ? !BUILT.includes(file) : file !== READY));
  return (
    <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section className="plate px-4 py-3" aria-label="Sheets to print">
        <h2 className="text-lg">For the store</h2>
        <ul>
          {sheets.map(([file, text, more], n) => (
            <li key={file} className={`py-2 ${n > 0 ? "border-t border-line" : ""}`}>
              <a
                className={n === 0 ? "key key-on" : "font-semibold underline"}
                href={`/api/plans/${planId}/print/${file}`}
              >
                {text}
              </a>{" "}
              <span className="text-ash">{more}</span>
            </li>
          ))}
        </ul>
        <p className="text-sm text-ash">
          Paper: {paper === "a4" ? "A4" : "Letter"}, chosen with the faces. Made for black and
          white: solid lines are positive, hollow ones negative.
        </p>
        {(saving || trial !== null) && (
          <p role="status" className="text-sm font-semibold">
            {saving ? "Still saving: print in a moment." : "A trial is not printed: keep it first."}
          </p>
        )}
      </section>
      <aside className="plate flex flex-col gap-3 px-4 py-3" aria-label="Cautions">
        <h2 className="text-lg">Before you begin</h2>
        {build.cautions.map((caution) => (
          <div key={caution.key} className="border-t border-line pt-2 first:border-0">
            <p className="font-semibold text-danger">
              <span aria-hidden="true">▲ </span>
              {caution.title}
            </p>
            <p className="text-sm">{caution.text}</p>
            <p className="text-xs text-ash">{caution.source}</p>
          </div>
        ))}
      </aside>
    </div>
  );
}
