import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, refusalIn } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields/TextField";
import { PageHead } from "../../ui/PageHead";
import { ComparisonBoard } from "./ComparisonBoard";
import { ImproveViews } from "./ImproveViews";

const MAX_OTHERS = 2;

/** Two or three variants on one board. */
export function SideBySide() {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const draft = usePlanPart((state) => state.draft);
  const queries = useQueryClient();
  const [others, setOthers] = useState<number[]>([]);
  const [name, setName] = useState(`${plan.document.name}, variant`.slice(0, 80));
  const plans = useQuery({
    queryKey: ["plans", plan.revision],
    queryFn: () => answer(client.GET("/api/plans")),
  });
  const chosen = [plan.id, ...others];
  const comparison = useQuery({
    queryKey: ["compare", plan.revision, ...chosen],
    enabled: others.length > 0,
    queryFn: () => answer(client.GET("/api/compare", { params: { query: { plan: chosen } } })),
    placeholderData: (before) => before,
  });

  async function keep(readyMade: boolean) {
    try {
      const document = readyMade
        ? await answer(client.POST("/api/improve/ready-made", { body: draft }))
        : { ...draft, name };
      const made = await answer(client.POST("/api/plans", { body: document }));
      await queries.invalidateQueries({ queryKey: ["plans"] });
      setOthers((before) => [...before, made.id].slice(-MAX_OTHERS));
    } catch (error) {
      store.showProblem(refusalIn(error).problem);
    }
  }

  const toggle = (id: number) =>
    setOthers((before) =>
      before.includes(id)
        ? before.filter((other) => other !== id)
        : [...before, id].slice(-MAX_OTHERS),
    );

  return (
    <section aria-label="Side by side">
      <PageHead
        answer={
          others.length === 0
            ? "Compare with another plan."
            : `${plan.document.name} and ${others.length === 1 ? "another" : "two others"}`
        }
        facts="Name what is on screen as a variant, change one of the two, and see both in the same weather."
      />
      <ImproveViews value="beside" />
      <div className="grid gap-4 md:grid-cols-[19rem_1fr]">
        <div className="plate grid content-start gap-3 p-4">
          <TextField label="Name of the variant" value={name} onCommit={setName} />
          <div className="flex flex-wrap gap-2">
            <Button look="main" onClick={() => void keep(false)}>
              Keep as a variant
            </Button>
            {draft.box.unit == null && (
              <Button onClick={() => void keep(true)}>The same, ready-made</Button>
            )}
          </div>
          <fieldset>
            <legend className="mb-1 text-sm text-ash">Beside (two at most)</legend>
            <ul className="max-h-72 overflow-y-auto">
              {plans.data
                ?.filter((other) => other.id !== plan.id)
                .map((other) => (
                  <li key={other.id}>
                    <label className="flex items-center gap-2 py-1">
                      <input
                        type="checkbox"
                        checked={others.includes(other.id)}
                        onChange={() => toggle(other.id)}
                      />
                      {other.name}
                    </label>
                  </li>
                ))}
            </ul>
          </fieldset>
        </div>
        <div className="min-w-0">
          {comparison.error && (
            <p role="alert" className="plate p-4">
              {comparison.error.message}
            </p>
          )}
          {comparison.data && others.length > 0 && <ComparisonBoard comparison={comparison.data} />}
        </div>
      </div>
    </section>
  );
}
