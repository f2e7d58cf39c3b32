import { scaleLinear } from "d3-scale";
import type { Comparison } from "../../api/client";
import { linePath, ringPath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { Wide } from "../../ui/Wide";

const HEIGHT = 220;
const DASHES = [undefined, "9 5", "2 4"];
const INKS = ["var(--color-level)", "var(--color-vehicle)", "var(--color-use)"];

/** Two or three variants' middling levels over their trips, and what differs between them. */
export function ComparisonBoard({ comparison }: { comparison: Comparison }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { variants, differences } = comparison;
  const longest = Math.max(
    ...variants.map(({ odds }) => odds.band.middle.length * odds.band.step_min),
  );
  const x = scaleLinear([0, longest], [0, width]);
  const y = scaleLinear([0, 100], [HEIGHT - 4, 6]);
  const points = (values: readonly number[], step: number) =>
    values.map((level, i) => ({ x: x(i * step), y: y(Math.max(level, 0)) }));
  return (
    <div className="plate p-3" data-testid="comparison">
      <div ref={ref}>
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label="Middling battery level of each variant over the trip"
        >
          {[0, 50, 100].map((level) => (
            <line key={level} x2={width} y1={y(level)} y2={y(level)} stroke="var(--color-line)" />
          ))}
          {Array.from({ length: Math.floor(longest / 1440) }, (_, day) => (
            <line
              key={day}
              x1={x((day + 1) * 1440)}
              x2={x((day + 1) * 1440)}
              y2={HEIGHT}
              stroke="var(--color-line)"
            />
          ))}
          {variants.map(({ plan_id, odds: { band } }, i) => (
            <g key={plan_id}>
              <path
                d={ringPath(points(band.high, band.step_min), points(band.low, band.step_min))}
                fill={INKS[i]}
                fillOpacity=".1"
              />
              <path
                d={linePath(points(band.middle, band.step_min))}
                fill="none"
                stroke={INKS[i]}
                strokeWidth="2.4"
                strokeDasharray={DASHES[i]}
              />
            </g>
          ))}
        </svg>
      </div>
      <ul className="mt-2 grid gap-2">
        {variants.map((variant, i) => (
          <li key={variant.plan_id} className="grid grid-cols-[2.2rem_1fr] items-center gap-x-3">
            <svg width="34" height="10" aria-hidden="true">
              <line
                x2="34"
                y1="5"
                y2="5"
                stroke={INKS[i]}
                strokeWidth="3"
                strokeDasharray={DASHES[i]}
              />
            </svg>
            <span>
              <b>{variant.name}</b>: lasts in {Math.round(variant.odds.lasts_percent)} of 100 trips,
              worst of ten down to {Math.round(variant.odds.lowest.low)} %. {variant.text}
            </span>
          </li>
        ))}
      </ul>
      <h2 className="mt-3 text-lg">What differs</h2>
      {differences.length === 0 ? (
        <p className="text-ash">Nothing: they are the same plan under two names.</p>
      ) : (
        <Wide label="Side by side">
          <table className="w-full text-sm">
            <tbody>
              {differences.map((one) => (
                <tr key={one.where} className="border-t border-line align-top">
                  <th scope="row" className="py-1 pr-3 text-left font-normal text-ash">
                    {one.where}
                  </th>
                  {one.values.map((value, i) => (
                    <td key={i} className="py-1 pr-3">
                      {value}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
    </div>
  );
}
