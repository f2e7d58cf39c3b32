import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Button } from "../../ui/Button";
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
      title="Saved versions, newest first"
      text="Going back saves the old plan once more, on top. All of the last week stays, then one a day for two months, then one a week; what you name stays for good."
      {...props}
    >
      {past.error && <p role="alert">{past.error.message}</p>}
      <ol className="flex flex-col gap-2">
        {shown?.map((one) => (
          <Entry key={one.revision} past={one} onDone={() => props.onOpenChange(false)} />
        ))}
      </ol>
      {past.data && !all && past.data.length > FIRST && (
        <Button look="link" className="mt-2" onClick={() => setAll(true)}>
          All {past.data.length}
        </Button>
      )}
    </Dialog>
  );
}

function Entry({ past, onDone }: { past: Past; onDone: () => void }) {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const queries = useQueryClient();
  const [naming, setNaming] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const path = { plan_id: plan.id, revision: past.revision };
  const when = new Date(past.saved_at).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });
  async function call(name: string) {
    try {
      const body = { name: name.trim() || null };
      const params = { path };
      await answer(client.PUT("/api/plans/{plan_id}/revisions/{revision}/name", { params, body }));
      setNaming(false);
      setProblem(null);
      await queries.invalidateQueries({ queryKey: ["history"] });
    } catch (error) {
      setProblem((error as Error).message);
    }
  }
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
        <strong>{past.name ? `${past.name} (${past.did})` : past.did}</strong>
        <span className="text-sm text-ash">{when}</span>
        {past.current ? (
          <span className="ml-auto flex gap-3 text-sm">
            <Button look="link" onClick={() => setNaming(true)}>
              {past.name ? "Rename" : "Name it"}
            </Button>
            as it is now
          </span>
        ) : (
          <span className="ml-auto flex gap-3">
            <Button look="link" onClick={() => setNaming(true)}>
              {past.name ? "Rename" : "Name it"}
            </Button>
            <Button look="link" onClick={() => void look()}>
              Look at it
            </Button>
            <Button look="link" onClick={() => void goBack()}>
              Go back to it
            </Button>
          </span>
        )}
      </div>
      {naming && (
        <form
          className="mt-2 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void call(new FormData(event.currentTarget).get("name") as string);
          }}
        >
          <label className="flex min-w-0 flex-1 flex-col text-sm text-ash">
            Its name; empty takes it off
            <input className="field" name="name" defaultValue={past.name ?? ""} maxLength={80} />
          </label>
          <Button type="submit">Keep the name</Button>
        </form>
      )}
      {problem && <p role="alert">{problem}</p>}
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
