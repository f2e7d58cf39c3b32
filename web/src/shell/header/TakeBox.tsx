import { useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Button } from "../../ui/Button";

/** Says that the box is another by now, and takes it over. */
export default function TakeBox() {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const queries = useQueryClient();
  if (!plan.box_behind) return null;
  async function take() {
    const path = { plan_id: plan.id };
    await answer(client.POST("/api/plans/{plan_id}/take-box", { params: { path } }));
    store.reload();
    await queries.invalidateQueries({ queryKey: ["boxes"] });
  }
  return (
    <p className="px-1 pt-2 font-semibold text-sun-ink">
      {plan.document.box.name} has changed on another trip since.{" "}
      <Button look="link" onClick={() => void take()}>
        Take it as it is now
      </Button>
    </p>
  );
}
