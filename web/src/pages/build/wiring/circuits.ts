import type { Build, CircuitChoice, CircuitReport, Ink, Plan } from "../../../api/client";

export type Chosen = Omit<CircuitChoice, "circuit">;

/** Colours of wires by where their current comes from; the kind of line tells what it is. */
export const WIRE: Record<Ink, { colour: string }> = {
  sun: { colour: "var(--color-sun-ink)" },
  vehicle: { colour: "var(--color-vehicle)" },
  mains: { colour: "var(--color-mains)" },
  use: { colour: "var(--color-use)" },
  level: { colour: "var(--color-level)" },
  negative: { colour: "var(--color-ink)" },
  danger: { colour: "var(--color-danger)" },
  ink: { colour: "var(--color-ink)" },
};

export function withBuild(plan: Plan, part: Partial<Build>): Plan {
  return { ...plan, build: { ...plan.build, ...part } };
}

/**
 * The plan with something of a circuit fixed; null gives it back to the tool. Lengths and sizes
 * that the box states are changed there, so that the run sees them too.
 */
export function withChoice(plan: Plan, circuit: CircuitReport, part: Chosen): Plan {
  const stated = statedIn(plan, circuit, part);
  if (stated) return stated;
  const { circuits } = plan.build;
  const old = circuits.find((one) => one.circuit === circuit.key) ?? { circuit: circuit.key };
  const next = { ...old, ...part };
  const fixed = Object.entries(next).some(([name, value]) => name !== "circuit" && value != null);
  const others = circuits.filter((one) => one.circuit !== circuit.key);
  return withBuild(plan, { circuits: fixed ? [...others, next] : others });
}

function statedIn(plan: Plan, circuit: CircuitReport, part: Chosen): Plan | null {
  const { run_m, cable_mm2 } = part;
  if (run_m == null && cable_mm2 == null) return null;
  const id = circuit.part.slice(circuit.part.indexOf(":") + 1);
  const { box } = plan;
  if (circuit.role === "feed") {
    const vehicle = box.vehicle.map((one) =>
      one.id === id
        ? {
            ...one,
            feed: {
              ...one.feed,
              length_m: run_m ?? one.feed.length_m,
              area_mm2: cable_mm2 ?? one.feed.area_mm2,
            },
          }
        : one,
    );
    return { ...plan, box: { ...box, vehicle } };
  }
  if (circuit.role === "panel" && circuit.stated.includes("run_m")) {
    const sun = box.sun.map((one) =>
      one.id === id
        ? { ...one, cable_m: run_m ?? one.cable_m, cable_mm2: cable_mm2 ?? one.cable_mm2 }
        : one,
    );
    return { ...plan, box: { ...box, sun } };
  }
  return null;
}

/** Who chose a value of a circuit. */
export function chosenBy(circuit: CircuitReport, name: keyof Chosen): "you" | "box" | "tool" {
  if (circuit.fixed.includes(name)) return "you";
  return circuit.stated.includes(name) ? "box" : "tool";
}

/** Everything of a circuit given back to the tool. */
export function withoutChoice(plan: Plan, key: string): Plan {
  return withBuild(plan, {
    circuits: plan.build.circuits.filter((one) => one.circuit !== key),
  });
}
