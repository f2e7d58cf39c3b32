import type { Amount, Period } from "../../api/client";
import { useUnit } from "../../app/context";
import { amountText, type Unit } from "../../quantities/units";

/** A day's (or the trip's) books: in by source, out by appliance, what was lost, what is left. */
export function BooksTable({ period }: { period: Period }) {
  const unit = useUnit();
  const { lost } = period;
  const inBattery: Amount = {
    ah: lost.coulombic.ah + lost.leaked.ah,
    wh: lost.coulombic.wh + lost.leaked.wh + lost.resistance_wh + lost.lag_wh,
  };
  return (
    <div className="max-h-[60vh] overflow-y-auto pr-1">
      <table className="w-full text-sm">
        <tbody>
          {period.sources.map((source) => (
            <Line key={source.key} name={source.name} amount={source.taken} sign="+">
              {notTaken(source, unit)}
            </Line>
          ))}
          <Line name="In" amount={period.taken} strong />
          {period.draws.map((draw) => (
            <Line key={draw.key} name={draw.name} amount={draw.used} sign="−">
              {draw.unmet.ah > 0.05 && `${amountText(draw.unmet, unit)} denied: switched off`}
              {draw.moved.ah > 0.05 && ` ${amountText(draw.moved, unit)} carried by the vehicle`}
            </Line>
          ))}
          <Line name="Out" amount={period.used} strong />
          <Line name="Lost in the battery" amount={inBattery} sign="−" />
          <Line name="Left in the battery, more or less" amount={period.stored} strong signed />
        </tbody>
      </table>
      <p className="mt-2 text-xs text-ash">
        In less out less lost is what the battery gained or gave. Measured at the battery’s wires;
        chargers turned {lost.chargers_wh.toFixed(0)} Wh into heat before that and their cables{" "}
        {lost.wiring_wh.toFixed(0)} Wh; converters {lost.converters_wh.toFixed(0)} Wh of what went
        out. Of what the battery lost, {lost.leaked.wh.toFixed(1)} Wh leaked away by itself.
      </p>
    </div>
  );
}

/** What of a source's offer did not get in, and why. */
function notTaken(source: Period["sources"][number], unit: Unit): string {
  const parts: [Amount, string][] = [
    [source.barred, "kept away"],
    [source.clipped, "held back by its limits"],
    [source.spilled, source.kind === "sun" ? "spilled, battery full" : "not needed"],
  ];
  return parts
    .filter(([amount]) => amount.ah > 0.05)
    .map(([amount, why]) => `${amountText(amount, unit)} ${why}`)
    .join("; ");
}

interface LineProps {
  name: string;
  amount: Amount;
  sign?: string;
  strong?: boolean;
  signed?: boolean;
  children?: React.ReactNode;
}

function Line({ name, amount, sign = "", strong, signed, children }: LineProps) {
  const unit = useUnit();
  return (
    <tr className={strong ? "border-t border-rim font-semibold" : ""}>
      <th scope="row" className="py-0.5 pr-3 text-left font-[inherit]">
        {name}
        {children && <span className="block text-xs font-normal text-ash">{children}</span>}
      </th>
      <td className="text-right align-top whitespace-nowrap">
        {sign} {amountText(amount, unit, signed)} {unit}
      </td>
    </tr>
  );
}
