import type { ReactNode } from "react";

type Scale = (value: number) => number;

interface LevelsProps {
  ticks: readonly number[];
  y: Scale;
  /** From where to where the lines run; the figures stand left of them. */
  from: number;
  to: number;
  text?: (value: number) => ReactNode;
}

/** Thin lines across at some values, each with its figure to the left. */
export function LevelLines({ ticks, y, from, to, text = String }: LevelsProps) {
  return ticks.map((value) => (
    <g key={value}>
      <line x1={from} x2={to} y1={y(value)} y2={y(value)} stroke="var(--color-line)" />
      <text x={from - 6} y={y(value) + 4} textAnchor="end" fontSize="12" fill="var(--color-ash)">
        {text(value)}
      </text>
    </g>
  ));
}

interface FootProps {
  ticks: readonly number[];
  x: Scale;
  /** Where the figures stand. */
  y: number;
  /** At its value, or beginning there. */
  anchor?: "middle" | "start";
  text?: (value: number) => ReactNode;
}

/** Figures along the foot of a drawing. */
export function FootFigures({ ticks, x, y, anchor = "middle", text = String }: FootProps) {
  return ticks.map((value) => (
    <text key={value} x={x(value)} y={y} textAnchor={anchor} fontSize="12" fill="var(--color-ash)">
      {text(value)}
    </text>
  ));
}
