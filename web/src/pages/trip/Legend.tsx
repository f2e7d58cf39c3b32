import type { Box } from "../../api/client";
import { patternOf, SOURCES } from "../../sources";

/** What the colours and marks are. The curve's lanes carry their names: there it says little. */
export function Legend({ box, rows }: { box: Box; rows: boolean }) {
  const kinds = rows ? SOURCES.filter(({ key }) => box[key].length > 0) : [];
  const marks: [string, string][] = [
    ["var(--color-level)", "battery level"],
    [rows ? "url(#pat-band)" : "var(--color-level-tint)", "8 of 10 tries"],
    ...kinds.map(({ key, text, block }): [string, string] => [
      patternOf(key),
      key === "vehicle" ? text : (block?.text ?? text),
    ]),
    ...(rows ? ([["var(--color-use)", "use"]] as [string, string][]) : []),
    ["url(#pat-below)", "under your reserve"],
  ];
  return (
    <ul className="ml-auto flex flex-wrap gap-x-4 gap-y-1 text-sm text-ash" aria-label="Legend">
      {marks.map(([fill, text]) => (
        <li key={text} className="flex items-center gap-1.5">
          <svg width="16" height="10" aria-hidden="true">
            <rect width="16" height="10" rx="2" fill={fill} />
          </svg>
          {text}
        </li>
      ))}
      <li className="flex items-center gap-1.5">
        <svg width="10" height="10" aria-hidden="true">
          <path
            d="M5,.8l4.2,4.2l-4.2,4.2l-4.2,-4.2z"
            fill="var(--color-plate)"
            stroke="var(--color-ink)"
            strokeWidth="1.4"
          />
        </svg>
        reading
      </li>
    </ul>
  );
}
