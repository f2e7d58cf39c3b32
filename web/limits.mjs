// Writes src/api/limits.gen.ts: bounds and unit of every number in the plan, from openapi.json,
// so that entry fields refuse what the server would refuse, in the same words.
import { readFileSync, writeFileSync } from "node:fs";

const target = process.argv[2] ?? "src/api/limits.gen.ts";
const { components } = JSON.parse(readFileSync("openapi.json", "utf8"));
const battery = components.schemas.BatteryModel ?? components.schemas["BatteryModel-Input"];
const limits = {};
const lists = {};
for (const [name, schema] of Object.entries(components.schemas)) {
  const model = name.replace(/-(Input|Output)$/, "").replace(/Model$/, "");
  for (const [field, raw] of Object.entries(schema.properties ?? {})) {
    if (raw.type === "array" && raw.maxItems !== undefined) lists[`${model}.${field}`] = raw.maxItems;
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
const sorted = (all) =>
  Object.fromEntries(Object.entries(all).sort(([a], [b]) => a.localeCompare(b)));
writeFileSync(
  target,
  `// Generated from openapi.json by limits.mjs; do not edit.\nexport const LIMITS = ${JSON.stringify(sorted(limits), null, 2)} as const;\n/** Most entries of each list. */\nexport const MAX_ENTRIES = ${JSON.stringify(sorted(lists), null, 2)} as const;\n/** Fields of a battery that belong to its chemistry. */\nexport const OF_CHEMISTRY = ${JSON.stringify(battery["x-of-chemistry"])} as const;\n/** Every kind of entry of the log, with its form. */\nexport const LOG_KINDS = ${JSON.stringify(components.schemas.NewEntry["x-kinds"], null, 2)} as const;\n`,
);
