import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type ForecastReport, refusalIn } from "../../../api/client";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { useReference } from "../../../plan/useReference";
import { dayName } from "../../../quantities/clock";
import { degreesText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";
import { Button } from "../../../ui/Button";
import { Popover } from "../../../ui/Popover";

/** What a forecast says of the trip's days, how old it is, and a key that takes it over. */
export function ForecastButton() {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const taken = usePlanPart((state) => state.draft.trip.days.some((day) => day.forecast));
  const queries = useQueryClient();
  const habits = useHabits();
  const skies = useReference()?.skies ?? [];
  const [open, setOpen] = useState(false);
  const [busy, setBusy] = useState(false);
  const path = { plan_id: plan.id };
  const key = ["forecast", plan.id, plan.revision];
  const kept = useQuery({
    queryKey: key,
    enabled: open,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/forecast", { params: { path } })),
    placeholderData: (before) => before,
  });
  const forecast = kept.data;

  async function ask() {
    setBusy(true);
    try {
      const got = await answer(client.POST("/api/plans/{plan_id}/forecast", { params: { path } }));
      queries.setQueryData(key, got);
    } catch (error) {
      store.showProblem(refusalIn(error).problem);
    } finally {
      setBusy(false);
    }
  }

  function takeOver({ days, issued_on }: ForecastReport) {
    const foreseen = new Map(days.map((day) => [day.date, day]));
    const dates = store.snapshot().run.days.map((day) => day.date);
    store.edit(
      (old) => ({
        ...old,
        trip: {
          ...old.trip,
          days: old.trip.days.map((day, i) => {
            const said = foreseen.get(dates[i] ?? "");
            if (!said) return day;
            const { sky, low_c, high_c } = said;
            return { ...day, sky, low_c, high_c, said_on: issued_on, forecast: true };
          }),
        },
      }),
      "took over a forecast",
    );
    setOpen(false);
  }

  return (
    <Popover
      title="Forecast"
      align="end"
      open={open}
      onOpenChange={setOpen}
      trigger={<Button>Forecast{taken ? " \u2713" : ""}</Button>}
    >
      <div className="w-72">
        <p
          className={`text-sm ${forecast?.state === "stale" ? "font-semibold" : "text-ash"}`}
          data-testid="forecast-says"
        >
          {busy ? "Asking…" : forecast?.text}
        </p>
        {forecast && forecast.days.length > 0 && (
          <table className="mt-2 w-full text-sm">
            <tbody>
              {forecast.days.map((day) => (
                <tr key={day.date} className="border-t border-line">
                  <th scope="row" className="py-1 text-left font-medium">
                    {dayName(day.date)}
                  </th>
                  <td>{skies.find((sky) => sky.key === day.sky)?.text ?? day.sky}</td>
                  <td className="text-right">
                    {degreesText(day.low_c, habits, false)} to {degreesText(day.high_c, habits)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <p className="mt-2 text-xs text-ash">
          Its words are held for likely, the less so the farther ahead; the rest is drawn.
        </p>
        <div className="mt-2 flex flex-wrap gap-2">
          <Button onClick={() => void ask()} disabled={busy}>
            Ask the service
          </Button>
          {forecast && forecast.days.length > 0 && (
            <Button look="main" onClick={() => takeOver(forecast)}>
              Take it over
            </Button>
          )}
        </div>
      </div>
    </Popover>
  );
}
