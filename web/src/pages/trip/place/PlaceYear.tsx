import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { answer, client, type YearAt } from "../../../api/client";
import { useWidth } from "../../../drawing/useWidth";
import { degreesText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";

const SUN_HEIGHT = 84;
const WARM_TOP = SUN_HEIGHT + 34;
const WARM_HEIGHT = 76;
const HEIGHT = WARM_TOP + WARM_HEIGHT + 36;
const LEFT = 4;
const FIGURE = 13;
const MONTHS = ["J", "F", "M", "A", "M", "J", "J", "A", "S", "O", "N", "D"];

interface Props {
  site: { latitude: number; longitude: number; altitude_m: number };
  /** The trip's own months, 0 to 11. */
  months: ReadonlySet<number>;
}

/** The year at a place without a map: sun by month above, warmth below, the trip's months marked. */
export function PlaceYear({ site, months }: Props) {
  const query = {
    latitude: site.latitude,
    longitude: site.longitude,
    altitude_m: site.altitude_m,
  };
  const year = useQuery({
    queryKey: ["year", query.latitude, query.longitude, query.altitude_m],
    queryFn: () => answer(client.GET("/api/places/year", { params: { query } })),
    placeholderData: (before) => before,
  });
  if (year.error) {
    return (
      <p role="alert" className="text-sm text-danger">
        {year.error.message}
      </p>
    );
  }
  return (
    <figure className="min-h-[17rem]" data-testid="place-year">
      <figcaption className="mb-1 text-sm text-ash">
        The year at this place: hours of full sun a day, and the usual day’s warmth
      </figcaption>
      {year.data && <YearPicture year={year.data} months={months} />}
      {year.data && <p className="mt-1 text-sm">{year.data.text}</p>}
    </figure>
  );
}

function YearPicture({ year, months }: { year: YearAt; months: ReadonlySet<number> }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const habits = useHabits();
  const most = Math.max(...year.months.map((month) => month.sun_h), 1);
  const low = Math.min(...year.months.map((month) => month.low_c));
  const high = Math.max(...year.months.map((month) => month.high_c));
  const pitch = Math.max(width - 2 * LEFT, 12) / 12;
  const sun = scaleLinear([0, most], [SUN_HEIGHT + 16, 20]);
  const warm = scaleLinear([low, Math.max(high, low + 10)], [WARM_TOP + WARM_HEIGHT, WARM_TOP]);
  return (
    <div ref={ref}>
      <svg width={width} height={HEIGHT} role="img" aria-label={year.text}>
        {year.months.map((month, at) => {
          const left = LEFT + at * pitch;
          const middle = left + pitch / 2;
          const here = months.has(at);
          return (
            // The twelve months never change their order.
            <g key={at}>
              {here && (
                <rect
                  x={left}
                  width={pitch}
                  y={0}
                  height={HEIGHT}
                  fill="var(--color-band)"
                  rx="4"
                />
              )}
              <rect
                x={left + pitch * 0.2}
                width={pitch * 0.6}
                y={sun(month.sun_h)}
                height={sun(0) - sun(month.sun_h)}
                fill="var(--color-sun)"
              />
              <text
                x={middle}
                y={sun(month.sun_h) - 4}
                textAnchor="middle"
                fontSize={FIGURE}
                fill="var(--color-sun-ink)"
              >
                {month.sun_h < 9.95 ? month.sun_h.toFixed(1) : Math.round(month.sun_h)}
              </text>
              <rect
                x={middle - 3}
                width={6}
                y={warm(month.high_c)}
                height={Math.max(warm(month.low_c) - warm(month.high_c), 2)}
                rx="3"
                fill="var(--color-vehicle)"
              />
              <text
                x={middle}
                y={warm(month.high_c) - 4}
                textAnchor="middle"
                fontSize={FIGURE}
                fill="var(--color-ink)"
              >
                {degreesText(month.high_c, habits, false)}
              </text>
              <text
                x={middle}
                y={warm(month.low_c) + 13}
                textAnchor="middle"
                fontSize={FIGURE}
                fill="var(--color-ash)"
              >
                {degreesText(month.low_c, habits, false)}
              </text>
              <text
                x={middle}
                y={HEIGHT - 6}
                textAnchor="middle"
                fontSize={FIGURE}
                fontWeight={here ? 700 : 400}
                fill="var(--color-ink)"
              >
                {MONTHS[at]}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}

/** The months (0 to 11) that days from a date on fall into. */
export function monthsOf(start: string, days: number): ReadonlySet<number> {
  const found = new Set<number>();
  const at = new Date(`${start}T00:00:00Z`);
  for (let day = 0; day < Math.min(days, 366); day += 1) {
    found.add(at.getUTCMonth());
    at.setUTCDate(at.getUTCDate() + 1);
  }
  return found;
}
