import { usePlanState } from "../../../../plan/context";
import { Figure } from "../../../../plan/sums";
import { dayName } from "../../../../quantities/clock";
import { clockText, weightText } from "../../../../quantities/habits";
import { amountText, spanText } from "../../../../quantities/units";
import { useHabits } from "../../../../quantities/useHabits";

/** What the bank weighs and takes, and how much of its life this trip is. */
export function BankWords({ kind, neverAbove }: { kind?: string; neverAbove?: number }) {
  const habits = useHabits();
  const { run } = usePlanState();
  const { bank, endurance } = run;
  const { ageing } = endurance;
  return (
    <div className="text-sm text-ash">
      <p>
        {amountText(bank.nominal, "Ah")} Ah, {amountText(bank.nominal, "Wh")} Wh, about{" "}
        <Figure of="mass">{weightText(bank.mass_kg, habits)}</Figure>. It takes up to{" "}
        <Figure of="charge-limit">{bank.charge_limit_a.toFixed(0)} A</Figure> of charge.
        {kind && neverAbove && ` Never charge ${kind} above ${neverAbove} V.`}
      </p>
      <p className="mt-1" data-testid="ageing">
        This trip is <Figure of="ageing">{ageing.full_cycles.toFixed(1)} full cycles</Figure>, the
        deepest {ageing.deepest_percent.toFixed(0)} %: {spanText(ageing.life_percent)} % of its
        life.
        {endurance.last_full_at &&
          ` Last full on ${dayName(endurance.last_full_at.slice(0, 10))} at ${clockText(endurance.last_full_at.slice(11, 16), habits)}.`}
      </p>
    </div>
  );
}
