import { useEffect, useRef, useState } from "react";
import { answer, client, refusalIn, type Schemas } from "../api/client";
import { Button } from "../ui/Button";

type Question = Schemas["OpenReading"];
type What = Question["choices"][number]["what"];

interface Props {
  planId: number;
  question: Question;
  /** Called when it was answered. */
  onAnswered: () => void;
  /** Called when it is to be read again: the pad or the form is beside it. */
  onAgain: () => void;
}

/** What is asked about a reading that nothing explains, with both numbers, where it was typed. */
export function OpenReading({ planId, question, onAnswered, onAgain }: Props) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const box = useRef<HTMLElement>(null);
  // It is asked where it was typed: on a phone that may be below what is in sight.
  useEffect(() => {
    box.current?.scrollIntoView({ block: "nearest" });
  }, []);
  async function say(what: What) {
    if (what === "again" || question.entry === null) return onAgain();
    setBusy(true);
    setProblem(null);
    const path = { plan_id: planId, entry_id: question.entry };
    try {
      if (what === "withdraw")
        await answer(client.DELETE("/api/plans/{plan_id}/log/{entry_id}", { params: { path } }));
      else
        await answer(
          client.POST("/api/plans/{plan_id}/log/{entry_id}/settle", {
            params: { path },
            body: { what },
          }),
        );
      onAnswered();
    } catch (error) {
      setProblem(refusalIn(error).problem.detail);
    } finally {
      setBusy(false);
    }
  }
  return (
    <section
      ref={box}
      aria-label="A reading that does not fit"
      className="mt-3 rounded-lg border-2 border-danger px-3 py-2"
      data-testid="open-reading"
    >
      <p role="status" className="font-semibold">
        ▲ {question.text}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {question.choices.map(({ what, text }) => (
          <Button
            key={what}
            className="min-h-11 grow px-3 sm:grow-0"
            disabled={busy}
            onClick={() => void say(what)}
          >
            {text}
          </Button>
        ))}
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-danger">
          {problem}
        </p>
      )}
    </section>
  );
}
