import { useQuery, useQueryClient } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { Suspense, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { beginPlain } from "../../plan/plainPlan";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields/TextField";
import { part } from "../part";

const HistoryDialog = part(() => import("../dialogs/HistoryDialog"));

/** The plan's name; behind it the other plans, renaming, and files in and out. */
export default function PlanMenu({ name, saving }: { name: string; saving: boolean }) {
  const plan = usePlanPart((state) => state.plan);
  const store = usePlanStore();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const [renaming, setRenaming] = useState(false);
  const [history, setHistory] = useState(false);
  const plans = useQuery({
    queryKey: ["plans", plan.revision],
    queryFn: () => answer(client.GET("/api/plans")),
  });

  async function copy() {
    const path = { plan_id: plan.id };
    const body = { name: `${name}, a copy`.slice(0, 80), same_box: true };
    const made = await answer(client.POST("/api/plans/{plan_id}/copy", { params: { path }, body }));
    navigate(`/plan/${made.id}/trip`);
  }
  async function bring(chosen: File | undefined) {
    if (!chosen) return;
    const response = await fetch("/api/plans/import", {
      method: "POST",
      body: await chosen.arrayBuffer(),
    });
    const got = await response.json();
    if (response.ok) {
      await queries.invalidateQueries({ queryKey: ["plans"] });
      navigate(`/plan/${got.id}/trip`);
    } else {
      store.showProblem({ type: "about:blank", complaints: [], ...got });
    }
  }

  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button className="min-w-0 max-w-64 shrink">
            <span className="truncate">{name}</span>
            <span aria-hidden="true">{saving ? "…" : "▾"}</span>
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop" align="end" sideOffset={6} collisionPadding={10}>
            {/* Only the list scrolls, so that many plans never push the actions out of reach. */}
            <DropdownMenu.Group className="max-h-[40vh] overflow-y-auto">
              {plans.data?.map((other) => (
                <DropdownMenu.Item
                  key={other.id}
                  className="menu-item"
                  onSelect={() => navigate(`/plan/${other.id}/trip`)}
                >
                  <span className="w-4" aria-hidden="true">
                    {other.id === plan.id ? "●" : ""}
                  </span>
                  {other.name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
            <DropdownMenu.Separator className="my-2 h-px bg-line" />
            <DropdownMenu.Item className="menu-item" onSelect={() => navigate("/")}>
              Boxes and trips
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => setHistory(true)}>
              Version history
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => void copy()}>
              Copy this plan
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => void beginPlain()}>
              New plan, a plain box
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => setRenaming(true)}>
              Rename this plan
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" asChild>
              <a href={`/api/plans/${plan.id}/file`} download>
                Save this plan as a file
              </a>
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => file.current?.click()}>
              Open a plan file
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        className="sr-only"
        tabIndex={-1}
        aria-label="Plan file"
        onChange={(event) => {
          void bring(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      {history && (
        <Suspense fallback={null}>
          <HistoryDialog open onOpenChange={setHistory} />
        </Suspense>
      )}
      {renaming && (
        <div className="pop fixed top-16 right-4">
          <TextField
            label="Name of this plan"
            value={name}
            onCommit={(next) => {
              store.edit((draft) => ({ ...draft, name: next }), "renamed the plan");
              setRenaming(false);
            }}
          />
          <Button className="mt-2" onClick={() => setRenaming(false)}>
            Close
          </Button>
        </div>
      )}
    </>
  );
}
