import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Button } from "../../ui/Button";
import { NumberField } from "../../ui/fields/NumberField";
import { More } from "../../ui/More";

/** What the battery really holds: a test its owner can do, with the figures of this box. */
export function CapacityTest() {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const [drawn, setDrawn] = useState<number | null>(null);
  const [volts, setVolts] = useState<number | null>(null);
  const path = { plan_id: plan.id };
  const guide = useQuery({
    queryKey: ["capacity", plan.id, plan.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/track/capacity", { params: { path } })),
  });
  const found = useMutation({
    mutationFn: (body: { drawn_ah: number; rested_v: number | null }) =>
      answer(client.POST("/api/plans/{plan_id}/track/capacity", { params: { path }, body })),
  });
  if (!guide.data) return null;
  return (
    <section className="plate mt-3 p-4" aria-label="Capacity test">
      <More text="A capacity test: what the battery really holds">
        <ol className="list-decimal pl-5">
          {guide.data.steps.map((step) => (
            <li key={step} className="py-0.5">
              {step}
            </li>
          ))}
        </ol>
        <p className="text-sm text-danger">{guide.data.caution}</p>
        <div className="grid max-w-md grid-cols-2 gap-3">
          <NumberField
            label="Went out since full"
            value={drawn}
            limit="CapacityAsked.drawn_ah"
            onCommit={setDrawn}
          />
          <NumberField
            label="Rested voltage at the end"
            value={volts}
            limit="CapacityAsked.rested_v"
            empty="it cut out"
            onCommit={setVolts}
            onClear={() => setVolts(null)}
          />
        </div>
        <Button
          className="self-start"
          disabled={drawn === null}
          onClick={() => drawn !== null && found.mutate({ drawn_ah: drawn, rested_v: volts })}
        >
          What does it hold?
        </Button>
        {found.error && (
          <p role="alert" className="text-sm text-danger">
            {found.error.message} The plan stays as it was.
          </p>
        )}
        {found.data && (
          <p data-testid="capacity-found">
            {found.data.text}{" "}
            <Button
              look="main"
              onClick={() =>
                store.edit(
                  (old) => withRemedy(old, found.data.take_over),
                  "took the measured capacity over",
                )
              }
            >
              {found.data.take_over.text}
            </Button>
          </p>
        )}
      </More>
    </section>
  );
}
