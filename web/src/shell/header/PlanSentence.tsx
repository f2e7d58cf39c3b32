import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Button } from "../../ui/Button";

/** Where each part of the sentence is edited. */
const LEADS: Record<NonNullable<Schemas["Piece"]["part"]>, string> = {
  bank: "box?part=battery",
  chargers: "box",
  length: "trip",
  place: "trip",
  when: "trip",
  things: "use",
  shape: "trip",
};

/** The plan in one sentence, which follows every edit; each part leads to where it is edited. */
export default function PlanSentence() {
  const plan = usePlanPart((state) => state.plan);
  const words = useQuery({
    queryKey: ["words", plan.id, plan.revision],
    placeholderData: keepPreviousData,
    queryFn: () => answer(client.POST("/api/sentence/words", { body: plan.document })),
  });
  return (
    <div className="flex min-h-13 flex-wrap items-baseline gap-x-4 px-1 pt-2 text-ash print:hidden">
      <p data-testid="plan-sentence" className="max-sm:line-clamp-2">
        {words.data?.map((piece, i) => (
          <span key={i}>
            {i === 0 || /^[,.?]/.test(piece.text) ? "" : " "}
            {piece.part ? (
              <Link
                className="text-ink underline decoration-edge underline-offset-3 hover:bg-hover"
                to={`/plan/${plan.id}/${LEADS[piece.part]}`}
              >
                {piece.text}
              </Link>
            ) : (
              piece.text
            )}
          </span>
        ))}
      </p>
      {plan.box_behind && <TakeBox />}
    </div>
  );
}

/** Says that the box is another by now, and takes it over. */
function TakeBox() {
  const store = usePlanStore();
  const plan = usePlanPart((state) => state.plan);
  const queries = useQueryClient();
  async function take() {
    const path = { plan_id: plan.id };
    await answer(client.POST("/api/plans/{plan_id}/take-box", { params: { path } }));
    store.reload();
    await queries.invalidateQueries({ queryKey: ["boxes"] });
  }
  return (
    <p className="font-semibold text-sun-ink">
      {plan.document.box.name} has changed on another trip since.{" "}
      <Button look="link" onClick={() => void take()}>
        Take it as it is now
      </Button>
    </p>
  );
}
