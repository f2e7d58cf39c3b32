import { useState } from "react";
import type { BuildReport } from "../../../api/client";
import { Button } from "../../../ui/Button";

type Symptom = BuildReport["symptoms"][number];
type Cause = Symptom["causes"][number];

interface Props {
  symptom: Symptom;
  symptoms: readonly Symptom[];
  onGo: (key: string) => void;
}

/** The questions of a symptom: what was answered, then the next one or what it is. */
export function Questions({ symptom, symptoms, onGo }: Props) {
  // What was answered, and the causes that were found not to be it after all.
  const [answers, setAnswers] = useState<readonly boolean[]>([]);
  const [passed, setPassed] = useState<readonly number[]>([]);
  const found = answers.findIndex(
    (yes, n) => !passed.includes(n) && points(symptom.causes[n], yes),
  );
  const at = found >= 0 ? found : answers.length;
  const cause = symptom.causes[at];
  const leads = symptoms.find((one) => one.key === cause?.leads_to);
  function back() {
    const last = answers.length - 1;
    setAnswers(answers.slice(0, last));
    setPassed(passed.filter((n) => n < last));
  }
  return (
    <div className="mt-3" aria-live="polite">
      <h2 className="text-lg">{symptom.text}</h2>
      <ol className="grid">
        {symptom.causes.slice(0, at).map((one, n) => (
          <li key={one.key} className="border-t border-line py-1.5 text-ash">
            {n + 1}. {one.text} {one.measure} {one.shows}?{" "}
            <strong>{answers[n] ? "Yes." : "No."}</strong>
          </li>
        ))}
      </ol>
      {cause && found < 0 && (
        <Question
          number={at + 1}
          of={symptom.causes.length}
          cause={cause}
          onAnswer={(yes) => setAnswers([...answers, yes])}
        />
      )}
      {cause && found >= 0 && (
        <div className="border-t border-line py-3" data-testid="found">
          <p className="text-xl font-semibold">{cause.text}</p>
          <p className="text-lg">{cause.then}</p>
        </div>
      )}
      {!cause && (
        <p className="border-t border-line py-3 text-xl font-semibold" data-testid="found">
          None of these. Ask a licensed person before anything else is tried.
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {found >= 0 && leads && (
          <Button onClick={() => onGo(leads.key)}>Go on with: {leads.text.toLowerCase()}</Button>
        )}
        {found >= 0 && (
          <Button onClick={() => setPassed([...passed, found])}>That was not it</Button>
        )}
        {answers.length > 0 && <Button onClick={back}>Back one question</Button>}
      </div>
    </div>
  );
}

/** Whether an answer points to a cause. */
function points(cause: Cause | undefined, yes: boolean): boolean {
  return cause !== undefined && (cause.found_when === "right") === yes;
}

interface QuestionProps {
  number: number;
  of: number;
  cause: Cause;
  onAnswer: (yes: boolean) => void;
}

function Question({ number, of, cause, onAnswer }: QuestionProps) {
  return (
    <div className="border-t border-line py-3">
      <p className="text-sm text-ash">
        Question {number} of {of}
      </p>
      <p className="text-ash">Suspected: {cause.text}</p>
      <p className="text-lg">{cause.measure}</p>
      <p className="text-lg font-semibold">Does it show: {cause.shows}?</p>
      <div className="mt-2 flex gap-3">
        <Button className="min-w-24" onClick={() => onAnswer(true)}>
          Yes
        </Button>
        <Button className="min-w-24" onClick={() => onAnswer(false)}>
          No
        </Button>
      </div>
    </div>
  );
}
