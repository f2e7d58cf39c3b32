interface Line {
  /** As it stands on the label. */
  label: string;
  means: string;
  /** The field that it goes into; null when it goes nowhere. */
  field: string | null;
}

const PANEL: readonly Line[] = [
  { label: "Pmax 100 W", means: "its power in the maker’s test light", field: "Watts" },
  { label: "Vmp 18.0 V, Vpm", means: "volts at its best power", field: "Vmp" },
  { label: "Imp 5.56 A, Ipm", means: "amps at its best power: what charges", field: "Imp" },
  { label: "Voc 21.6 V", means: "volts with nothing connected", field: "Voc" },
  {
    label: "Isc 5.90 A",
    means: "amps in a short circuit: for fuses, not for charging",
    field: "Isc",
  },
  { label: "TK Voc −0.29 %/K", means: "Voc falls as it warms", field: "Voc changes" },
  { label: "TK Pmax −0.35 %/K", means: "power falls as it warms", field: "Power changes" },
  {
    label: "Max. series fuse 15 A",
    means: "the largest fuse in its string",
    field: "Maximum series fuse",
  },
  { label: "Max. system 600 V", means: "what its insulation bears", field: null },
  { label: "“5 A” on a panel’s own plug", means: "a round name, not a reading", field: null },
];
const BATTERY: readonly Line[] = [
  { label: "100 Ah (C20, 20 h)", means: "rated capacity: the one to type", field: "Capacity" },
  { label: "110 Ah (C100)", means: "by a very slow discharge: too good", field: null },
  {
    label: "1280 Wh, 1.28 kWh",
    means: "divide by 12.8 V (lead: 12 V)",
    field: "Capacity, divided",
  },
  {
    label: "12.8 V",
    means: "nominal volts of four LiFePO4 cells: class 12",
    field: "One battery is: 12",
  },
  { label: "25.6 V", means: "eight of them: class 24", field: "One battery is: 24" },
  { label: "Charge 14.2–14.6 V", means: "absorption", field: "Absorption" },
  { label: "Float 13.5 V", means: "held when full", field: "Float" },
  { label: "Max. charge 50 A", means: "", field: "Data sheet: Most charge" },
  {
    label: "Max. discharge 100 A",
    means: "the management system’s limit",
    field: "Data sheet: Most discharge",
  },
  { label: "CCA 600 A, EN", means: "for starting engines: says nothing of capacity", field: null },
  { label: "RC 180 min", means: "minutes at 25 A: 75 Ah at that rate", field: null },
];

/** What figures on such labels mean, before any is typed. */
export function LabelExamples({ of }: { of: "panel" | "battery" }) {
  const lines = of === "panel" ? PANEL : BATTERY;
  return (
    <table className="w-full text-sm" aria-label="Figures on such labels">
      <thead className="sr-only">
        <tr>
          <th>On the label</th>
          <th>Goes into</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.label} className="border-t border-line/70 align-top">
            <th scope="row" className="py-0.5 pr-2 text-left font-[inherit]">
              <span className="rounded bg-band px-1 font-semibold">{line.label}</span>
              <span className="block text-xs text-ash">{line.means}</span>
            </th>
            <td className="py-0.5 text-right">
              {line.field ? (
                <>
                  <span aria-hidden="true">→ </span>
                  {line.field}
                </>
              ) : (
                <span className="text-ash">nowhere</span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
