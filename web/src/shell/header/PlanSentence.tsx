import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { usePlanPart, useUnit } from "../../plan/context";
import { amountText } from "../../quantities/units";
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

/**
 * The plan as one quiet line of facts; "change" opens the whole sentence. Each part opens its picker
 * in both.
 */
export default function PlanSentence() {
  const plan = usePlanPart((state) => state.plan);
  const headline = usePlanPart((state) => state.run.rest?.headline ?? state.run.headline);
  const behind = usePlanPart((state) => state.behind);
  const [open, setOpen] = useState<PartKey | null>(null);
  const [unfolded, setUnfolded] = useState(false);
  const words = useQuery({
    queryKey: ["words", plan.id, plan.revision],
    placeholderData: keepPreviousData,
    queryFn: () => answer(client.POST("/api/sentence/words", { body: plan.document })),
  });
  const { sentence, choices, uses, problem, change } = usePlanSentence(unfolded || open !== null);
  const whole = (unfolded || open !== null) && words.data && sentence && choices;
  return (
    <div className="flex min-w-0 items-baseline gap-x-3 print:hidden">
      {whole ? (
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
        <Facts pieces={words.data ?? []} onOpen={setOpen} />
      )}
      <Button look="link" className="shrink-0" onClick={() => setUnfolded(!unfolded)}>
        {unfolded ? "fold" : "change"}
      </Button>
    </div>
  );
}

/** In the order in which one asks: what it is, what charges it, how long, where, when, for what. */
const FACTS: readonly PartKey[] = ["bank", "chargers", "length", "place", "when", "things"];

/** The parts alone, without the words between them. */
function Facts({ pieces, onOpen }: { pieces: Piece[]; onOpen: (part: PartKey) => void }) {
  const unit = useUnit();
  const use = usePlanPart((state) => state.run.use);
  const things = `${use.draws.length} ${use.draws.length === 1 ? "thing" : "things"}, ${amountText(use.a_day, unit)} ${unit} a day`;
  const told = FACTS.flatMap((part) => {
    const piece = pieces.find((one) => one.part === part);
    return piece ? [{ part, text: part === "things" ? things : piece.text }] : [];
  });
  return (
    <p data-testid="plan-sentence" className="facts-line">
      {told.map(({ text, part }, i) => (
        <span key={part}>
          {i > 0 && " · "}
          <Button
            look="bare"
            className="inline cursor-pointer rounded text-left hover:bg-hover hover:text-ink"
            data-part={part}
            onClick={() => onOpen(part)}
          >
            {text}
          </Button>
        </span>
      ))}
    </p>
  );
}
