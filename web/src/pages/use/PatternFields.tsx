import type { Appliance } from "../../api/client";
import { useReference } from "../../plan/useReference";
import { Choice } from "../../ui/fields/Choice";
import { Fields } from "../../ui/fields/Fields";
import { PATTERNS, type Pattern, type PatternType } from "./patterns";

const STEADY = "It draws its power all its hours, or the share given above.";

interface Props {
  appliance: Appliance;
  onChange: (pattern: Pattern | null) => void;
}

/** How an appliance runs within its hours, with the fields that this kind needs. */
export function PatternFields({ appliance, onChange }: Props) {
  const fresh = useReference()?.fresh.patterns;
  const { pattern } = appliance;
  const look = pattern && PATTERNS[pattern.type];
  return (
    <div className="flex flex-col gap-3">
      <Choice
        label="How it runs"
        showLabel
        value={pattern?.type ?? "steady"}
        options={[
          { value: "steady", text: "steadily" },
          ...(Object.keys(PATTERNS) as PatternType[]).map((value) => ({
            value,
            text: PATTERNS[value].text,
          })),
        ]}
        onChange={(type) => fresh && onChange(type === "steady" ? null : (fresh[type] ?? null))}
      />
      {pattern && look && (
        <Fields model={look.model} part={pattern} specs={look.fields} onChange={onChange} />
      )}
      <p className="text-sm text-ash">{look?.power ?? STEADY}</p>
    </div>
  );
}
