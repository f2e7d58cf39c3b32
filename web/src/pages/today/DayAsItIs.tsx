import type { Schemas } from "../../api/client";
import { localNow } from "../../away/keptDays";
import { usePlanStore } from "../../plan/context";
import type { LogIt } from "../../plan/Ticks";
import { Button } from "../../ui/Button";
import { addDay } from "../trip/board/blocks/blocks";
import { endsNow } from "./endsNow";

type Sky = NonNullable<Schemas["TodayReport"]["sky"]>;
const SKIES: readonly { sky: Sky; text: string }[] = [
  { sky: "heavy", text: "dull" },
  { sky: "usual", text: "as usual" },
  { sky: "clear", text: "bright" },
];

interface Props {
  day: Schemas["TodayReport"];
  onLog: LogIt;
}

/** What changed of the day or of the trip, one press each. */
export function DayAsItIs({ day, onLog }: Props) {
  const store = usePlanStore();
  return (
    <section
      className="flex flex-wrap items-center gap-x-6 gap-y-2 px-1 print:hidden"
      aria-label="The day as it is"
    >
      <div className="flex flex-wrap items-center gap-2">
        <span id="sky-today">Today is</span>
        <div className="segments" role="group" aria-labelledby="sky-today">
          {SKIES.map(({ sky, text }) => (
            <Button
              look="bare"
              key={sky}
              className="segment min-h-11 px-3"
              aria-pressed={(day.sky ?? "usual") === sky}
              data-state={(day.sky ?? "usual") === sky ? "on" : "off"}
              onClick={() =>
                void onLog({ kind: "sky", at: localNow(day), sky }, `today is ${text}`)
              }
            >
              {text}
            </Button>
          ))}
        </div>
      </div>
      <div className="flex flex-wrap gap-2">
        <Button
          className="min-h-11 px-3"
          onClick={() =>
            store.edit((plan) => addDay(plan, plan.trip.days.length - 1), "stayed a night longer")
          }
        >
          We stay a night longer
        </Button>
        <Button
          className="min-h-11 px-3"
          onClick={() =>
            store.edit((plan) => endsNow(plan, day.day_index, localNow(day)), "left early")
          }
        >
          We leave now
        </Button>
      </div>
    </section>
  );
}
