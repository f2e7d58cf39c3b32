import type { BuildReport, CircuitReport, OwnOutlet, Plan } from "../../../api/client";
import { withBuild } from "./circuits";

/** Places for an appliance that are no outlet yet. */
export const ALONE = "alone";
export const TOOL = "tool";

const FORESEEN_A = { usb: 3, plain: 5 };

export const isOutlet = (circuit: CircuitReport) =>
  circuit.role === "outlet" || circuit.role === "usb";

/** An outlet as its owner wants it; one of the tool's is taken over as it is. */
function asOwn(plan: Plan, circuit: CircuitReport): OwnOutlet {
  return (
    plan.build.outlets.find((one) => one.outlet === circuit.key) ?? {
      outlet: circuit.key,
      name: circuit.name,
      usb: circuit.role === "usb",
      mains: false,
      appliances: circuit.holds.map((one) => one.key),
      spare_a: circuit.spare_a,
    }
  );
}

function put(outlets: OwnOutlet[], next: OwnOutlet): OwnOutlet[] {
  return outlets.some((one) => one.outlet === next.outlet)
    ? outlets.map((one) => (one.outlet === next.outlet ? next : one))
    : [...outlets, next];
}

/** The plan with something of an outlet as its owner wants it. */
export function withOutlet(plan: Plan, circuit: CircuitReport, part: Partial<OwnOutlet>): Plan {
  const next = { ...asOwn(plan, circuit), ...part };
  return withBuild(plan, { outlets: put(plan.build.outlets, next) });
}

/** The name of an outlet that nobody has yet. */
export function freeOutlet(plan: Plan): string {
  const taken = new Set(plan.build.outlets.map((one) => one.outlet));
  let n = 1;
  while (taken.has(`own-${n}`)) n += 1;
  return `own-${n}`;
}

/** The plan with an outlet for what it does not list. */
export function addOutlet(plan: Plan, outlet: string, usb: boolean): Plan {
  const name = usb ? "Spare USB outlet" : "Spare 12 V outlet";
  const spare_a = usb ? FORESEEN_A.usb : FORESEEN_A.plain;
  return withBuild(plan, {
    outlets: put(plan.build.outlets, { outlet, name, usb, mains: false, appliances: [], spare_a }),
  });
}

/** The plan with an outlet of mains voltage behind the inverter. */
export function addMainsOutlet(plan: Plan): Plan {
  const outlet = freeOutlet(plan);
  const name = "Mains outlet";
  return withBuild(plan, {
    outlets: put(plan.build.outlets, {
      outlet,
      name,
      usb: false,
      mains: true,
      appliances: [],
      spare_a: 0,
    }),
  });
}

/** The plan with another name for an outlet of the owner's. */
export function renamed(plan: Plan, outlet: string, name: string): Plan {
  return withBuild(plan, {
    outlets: plan.build.outlets.map((one) => (one.outlet === outlet ? { ...one, name } : one)),
  });
}

/** The plan without an outlet; what hung on it goes back to the tool. */
export function removeOutlet(plan: Plan, outlet: string): Plan {
  return withBuild(plan, {
    outlets: plan.build.outlets.filter((one) => one.outlet !== outlet),
    circuits: plan.build.circuits.filter(
      (one) => one.circuit !== outlet || !outlet.startsWith("own-"),
    ),
  });
}

/** The plan with an appliance plugged in at another outlet, at one of its own, or left to the tool. */
export function plugged(
  plan: Plan,
  build: BuildReport,
  appliance: { key: string; text: string },
  target: string,
): Plan {
  const outlets = plan.build.outlets.map((one) => ({
    ...one,
    appliances: one.appliances.filter((id) => id !== appliance.key),
  }));
  const without = withBuild(plan, { outlets });
  if (target === TOOL) return without;
  const from = build.circuits.find((one) => one.holds.some((held) => held.key === appliance.key));
  if (target === ALONE) {
    const next = {
      outlet: freeOutlet(plan),
      name: appliance.text,
      usb: from?.role === "usb",
      mains: false,
      appliances: [appliance.key],
      spare_a: 0,
    };
    return withBuild(plan, { outlets: put(outlets, next) });
  }
  const circuit = build.circuits.find((one) => one.key === target);
  if (!circuit) return plan;
  const own = asOwn(without, circuit);
  return withOutlet(without, circuit, { appliances: [...own.appliances, appliance.key] });
}
