// Writes src/api/limits.gen.ts: bounds and unit of every number in the plan, from openapi.json,
// so that entry fields refuse what the server would refuse, in the same words.
import { readFileSync, writeFileSync } from "node:fs";

const target = process.argv[2] ?? "src/api/limits.gen.ts";
const { components } = JSON.parse(readFileSync("openapi.json", "utf8"));
const limits = {};
for (const [name, schema] of Object.entries(components.schemas)) {
  const model = name.replace(/-(Input|Output)$/, "").replace(/Model$/, "");
  for (const [field, raw] of Object.entries(schema.properties ?? {})) {
    const found = raw.anyOf?.find((option) => option.unit) ?? raw;
    if (found.unit === undefined || found.minimum === undefined) continue;
    limits[`${model}.${field}`] = {
      least: found.minimum,
      most: found.maximum,
      unit: found.unit,
      whole: found.type === "integer",
    };
  }
}
const sorted = Object.fromEntries(Object.entries(limits).sort(([a], [b]) => a.localeCompare(b)));
writeFileSync(
  target,
  `// Generated from openapi.json by limits.mjs; do not edit.\nexport const LIMITS = ${JSON.stringify(sorted, null, 2)} as const;\n`,
);
