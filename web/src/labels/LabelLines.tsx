import type { LabelReading } from "./useLabel";

/** Each figure of a label: as it was printed, and the field that it goes into. */
export function LabelLines({ reading }: { reading: LabelReading }) {
  const { lines, notes, missing } = reading;
  const disputed = new Set(notes.map((note) => note.field));
  if (lines.length === 0)
    return <p role="status">No figure with a unit was found. Is all of it there?</p>;
  return (
    <div role="status" className="flex flex-col gap-2">
      {notes.map((note) => (
        <p key={note.text} className="text-danger">
          ▲ {note.text}
        </p>
      ))}
      <table className="w-full text-sm" aria-label="What was read">
        <thead className="sr-only">
          <tr>
            <th>On the label</th>
            <th>Goes into</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line, place) => (
            <tr key={`${place}-${line.typed}`} className="border-t border-line/70 align-top">
              <th scope="row" className="py-1 pr-2 text-left font-[inherit]">
                <span className="whitespace-nowrap rounded bg-band px-1 font-semibold">
                  {line.typed}
                </span>
              </th>
              <td className={`py-1 text-right ${line.field ? "" : "text-ash"}`}>
                {line.field ? (
                  <>
                    <span aria-hidden="true">→ </span>
                    {line.goes}: {valueText(line)}
                    {disputed.has(line.field) && <span className="text-danger"> ▲ look again</span>}
                  </>
                ) : (
                  `goes nowhere${line.means ? `: ${line.means}` : ""}`
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {missing.length > 0 && (
        <p className="text-sm text-ash">
          Not on it, and left as usual or as it was: {missing.join(", ")}.
        </p>
      )}
    </div>
  );
}

/** Values that are no figures. */
const WORDS: Record<string, string> = {
  direct: "12 V",
  mains: "mains voltage",
  lifepo4: "LiFePO4",
  agm: "AGM",
  nmc: "Li-ion (NMC)",
  lto: "lithium titanate",
};

function valueText({ value, unit }: LabelReading["lines"][number]): string {
  if (typeof value !== "number") return WORDS[value ?? ""] ?? value ?? "";
  return `${Number(value.toPrecision(5))} ${unit}`.trim();
}
