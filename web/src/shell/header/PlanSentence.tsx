import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { SentenceWords } from "../../sentence/SentenceWords";
import type { PartKey, Piece } from "../../sentence/sentence";
import { Button } from "../../ui/Button";
import { usePlanSentence } from "./usePlanSentence";

/** Where each part of the sentence has all its figures. */
const LEADS: Record<PartKey, { to: string; text: string }> = {
  bank: { to: "box?part=battery", text: "All of the battery’s figures" },
  chargers: { to: "box", text: "All that charges it" },
  length: { to: "trip", text: "Day by day" },
  place: { to: "trip", text: "Stops and days" },
  when: { to: "trip", text: "Day by day" },
  things: { to: "use", text: "All that runs, hour by hour" },
  shape: { to: "trip", text: "The trip" },
};

/** The plan in one sentence, which follows every edit; each part opens its picker. */
export default function PlanSentence() {
  const plan = usePlanPart((state) => state.plan);
  const headline = usePlanPart((state) => state.run.rest?.headline ?? state.run.headline);
  const behind = usePlanPart((state) => state.behind);
  const [open, setOpen] = useState<PartKey | null>(null);
  const words = useQuery({
    queryKey: ["words", plan.id, plan.revision],
    placeholderData: keepPreviousData,
    queryFn: () => answer(client.POST("/api/sentence/words", { body: plan.document })),
  });
  const { sentence, choices, uses, problem, change } = usePlanSentence(open !== null);
  return (
    <div className="flex min-h-13 flex-wrap items-baseline gap-x-4 px-1 pt-2 text-ash print:hidden">
      {words.data && sentence && choices ? (
        <SentenceWords
          look="line"
          ofPlan
          pieces={words.data}
          sentence={sentence}
          choices={choices}
          uses={uses}
          open={open}
          onOpen={setOpen}
          onChange={(next) => change(next, open ?? "shape")}
          above={behind ? "Working it out…" : headline}
          below={(part) => (
            <p className="mt-3 w-[min(86vw,22rem)] text-sm">
              {problem && (
                <span role="alert" className="block text-danger">
                  {problem} The plan stays as it was.
                </span>
              )}
              <Link
                className="underline"
                to={`/plan/${plan.id}/${LEADS[part].to}`}
                onClick={() => setOpen(null)}
              >
                {LEADS[part].text}
              </Link>
            </p>
          )}
        />
      ) : (
        <Waiting pieces={words.data ?? []} onOpen={setOpen} />
      )}
      {plan.box_behind && <TakeBox />}
    </div>
  );
}

/** The words alone, until a part is pressed for the first time. */
function Waiting({ pieces, onOpen }: { pieces: Piece[]; onOpen: (part: PartKey) => void }) {
  return (
    <p data-testid="plan-sentence" className="max-sm:line-clamp-2">
      {pieces.map(({ text, part }, i) => (
        <span key={i}>
          {i === 0 || /^[,.?]/.test(text) ? "" : " "}
          {part ? (
            <Button
              look="bare"
              className="inline cursor-pointer border-b-2 border-edge text-left text-ink hover:bg-hover"
              data-part={part}
              onClick={() => onOpen(part)}
            >
              {text}
            </Button>
          ) : (
            text
          )}
        </span>
      ))}
    </p>
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
