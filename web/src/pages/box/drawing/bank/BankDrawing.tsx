import type { Battery } from "../../../../api/client";

const CELL = { width: 46, height: 30, gapX: 16, gapY: 12 };
const MAX_ENTRIES = 4;

/** How the batteries are wired: rows in series add volts, rows beside one another amp-hours. */
export function BankDrawing({ battery, systemV }: { battery: Battery; systemV: number }) {
  const series = Math.min(battery.series, MAX_ENTRIES);
  const rows = Math.min(battery.parallel, MAX_ENTRIES);
  const width = 28 + series * (CELL.width + CELL.gapX);
  const height = 14 + rows * (CELL.height + CELL.gapY);
  const middle = (row: number) => 14 + row * (CELL.height + CELL.gapY) + CELL.height / 2;
  const text = words(battery, systemV);
  const hidden = battery.series > MAX_ENTRIES || battery.parallel > MAX_ENTRIES;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={Math.min(width, 280)}
        role="img"
        aria-label={text}
        className="block"
      >
        {Array.from({ length: rows }, (_, row) => (
          <g key={row}>
            <path d={`M8,${middle(row)}H${width - 8}`} stroke="var(--color-rim)" strokeWidth="2" />
            {Array.from({ length: series }, (_, place) => (
              <Cell
                key={place}
                x={14 + place * (CELL.width + CELL.gapX)}
                y={middle(row) - CELL.height / 2}
                text={`${battery.battery_v} V`}
              />
            ))}
          </g>
        ))}
        {[8, width - 8].map((x) => (
          <path
            key={x}
            d={`M${x},${middle(0) - 10}V${middle(rows - 1) + 4}`}
            stroke="var(--color-rim)"
            strokeWidth="3"
          />
        ))}
      </svg>
      <figcaption className="text-sm text-ash">
        {text}
        {hidden && " Not all are drawn."}
      </figcaption>
    </figure>
  );
}

function Cell({ x, y, text }: { x: number; y: number; text: string }) {
  return (
    <g>
      <rect
        x={x}
        y={y}
        width={CELL.width}
        height={CELL.height}
        rx="5"
        fill="var(--color-level-tint)"
        stroke="var(--color-rim)"
        strokeWidth="1.5"
      />
      <text x={x + CELL.width / 2} y={y + 19} fontSize="12" textAnchor="middle">
        {text}
      </text>
      <text x={x + 3} y={y + 10} fontSize="10">
        −
      </text>
      <text x={x + CELL.width - 9} y={y + 10} fontSize="10">
        +
      </text>
    </g>
  );
}

function words({ series, parallel, battery_v, capacity_ah }: Battery, systemV: number): string {
  if (series === 1 && parallel === 1) return `One battery: ${battery_v} V, ${capacity_ah} Ah.`;
  const string = series > 1 ? `${series} in series make ${series * battery_v} V` : "";
  const beside = parallel > 1 ? `${parallel} in parallel make ${parallel * capacity_ah} Ah` : "";
  const both = [string, beside].filter(Boolean).join("; ");
  return `${both}. The box runs at ${systemV} V.`;
}
