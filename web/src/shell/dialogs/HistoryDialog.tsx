import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Dialog } from "../../ui/Dialog";

type Past = Schemas["PastRevision"];
const FIRST = 30;

/** Every saved revision with what changed; any can be looked at, and gone back to. */
export default function HistoryDialog(props: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const plan = usePlanPart((state) => state.plan);
  const [all, setAll] = useState(false);
  const path = { plan_id: plan.id };
  const past = useQuery({
    queryKey: ["history", plan.id, plan.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/history", { params: { path } })),
  });
  const shown = all ? past.data : past.data?.slice(0, FIRST);
  return (
    <Dialog
      title="What was saved, newest first"
      text="Nothing is ever lost: going back saves the old plan once more, on top."
      {...props}
    >
      {past.error && <p role="alert">{past.error.message}</p>}
      <ol className="flex flex-col gap-2">
        {shown?.map((one) => (
          <Entry key={one.revision} past={one} onDone={() => props.onOpenChange(false)} />
        ))}
      </ol>
      {past.data && !all && past.data.length > FIRST && (
        <button type="button" className="mt-2 underline" onClick={() => setAll(true)}>
          All {past.data.length}
        </button>
      )}
    </Dialog>
  );
}

function Entry({ past, onDone }: { past: Past; onDone: () => void }) {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const queries = useQueryClient();
  const path = { plan_id: plan.id, revision: past.revision };
  const when = new Date(past.saved_at).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });
  async function look() {
    const then = await answer(
      client.GET("/api/plans/{plan_id}/revisions/{revision}", { params: { path } }),
    );
    store.try(then, `the plan as it was on ${when}`);
    onDone();
  }
  async function goBack() {
    await answer(client.POST("/api/plans/{plan_id}/revisions/{revision}", { params: { path } }));
    store.reload();
    await queries.invalidateQueries({ queryKey: ["history"] });
    onDone();
  }
  return (
    <li className="card">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <strong>{past.did}</strong>
        <span className="text-sm text-ash">{when}</span>
        {past.current ? (
          <span className="ml-auto text-sm">as it is now</span>
        ) : (
          <span className="ml-auto flex gap-3">
            <button type="button" className="underline" onClick={() => void look()}>
              Look at it
            </button>
            <button type="button" className="underline" onClick={() => void goBack()}>
              Go back to it
            </button>
          </span>
        )}
      </div>
      {past.changes.length > 0 && (
        <ul className="mt-1 text-sm text-ash">
          {past.changes.map(({ field, before, after }) => (
            <li key={field}>
              {field}: {before ?? "not there"} → {after ?? "taken out"}
            </li>
          ))}
          {past.more > 0 && <li>and {past.more} more</li>}
        </ul>
      )}
    </li>
  );
}
