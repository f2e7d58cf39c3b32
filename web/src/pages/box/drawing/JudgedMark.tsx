import type { Severity } from "../../../api/client";
import { SEVERITY } from "../../../plan/judgements";

const INK: Record<Severity, string> = {
  danger: "var(--color-danger)",
  fault: "var(--color-danger)",
  waste: "var(--color-sun-ink)",
  note: "var(--color-rim-soft)",
};

/** The gravest judgement's mark beside a part of the drawing; its words stand on the sheet. */
export function JudgedMark({ severity, x, y }: { severity: Severity; x: number; y: number }) {
  const { mark, word } = SEVERITY[severity];
  const filled = severity === "danger";
  return (
    <g aria-label={word}>
      <rect
        x={x}
        y={y}
        width="17"
        height="17"
        rx="4"
        fill={filled ? INK[severity] : "var(--color-plate)"}
        stroke={INK[severity]}
        strokeWidth="1.8"
      />
      {severity === "note" ? (
        // Drawn, not written: a letter in a button's text would have to be in its name.
        <path
          transform={`translate(${x + 4.5},${y + 3})`}
          d="M3.6,1.2h.1M1.5,4.6H4.2V10M1.4,10H7"
          stroke={INK.note}
          strokeWidth="2"
          strokeLinecap="round"
          fill="none"
        />
      ) : (
        <text
          x={x + 8.5}
          y={y + 13}
          fontSize="11.5"
          fontWeight="700"
          textAnchor="middle"
          fill={filled ? "var(--color-plate)" : INK[severity]}
        >
          {mark}
        </text>
      )}
    </g>
  );
}
