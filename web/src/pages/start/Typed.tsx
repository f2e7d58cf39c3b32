import { type ClipboardEvent, type FormEvent, Suspense, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import type { Sentence } from "../../sentence/sentence";
import { part } from "../../shell/part";
import { Button } from "../../ui/Button";

const LabelDialog = part(async () => ({
  default: (await import("./LabelDialog")).LabelDialog,
}));

export type Reading = Schemas["Reading"];

interface Props {
  sentence: Sentence;
  /** What was made of the words that were typed last; null once something else was changed. */
  reading: Reading | null;
  onRead: (reading: Reading) => void;
  /** Whether words are being read: until then what is shown is not about them. */
  onBusy: (busy: boolean) => void;
  /** An answer to a question: the sentence with it, and the words that it was about. */
  onAnswer: (next: Sentence, typed: string) => void;
  /** The sentence with what a label says. */
  onLabel: (next: Sentence) => void;
}

/** The same in typed words: each is shown as it was taken, as a guess, or with a question. */
export function Typed(props: Props) {
  const { sentence, reading, onRead, onBusy, onAnswer, onLabel } = props;
  const [text, setText] = useState("");
  const [label, setLabel] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  async function read(event: FormEvent) {
    event.preventDefault();
    if (!text.trim()) return;
    onBusy(true);
    try {
      const body = { text, base: sentence };
      onRead(await answer(client.POST("/api/sentence/read", { body })));
      setProblem(null);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    } finally {
      onBusy(false);
    }
  }
  function paste(event: ClipboardEvent) {
    const pasted = event.clipboardData.getData("text");
    // A field of one line would run its lines together.
    if (!pasted.trim().includes("\n")) return;
    event.preventDefault();
    setLabel(pasted);
  }
  return (
    <form onSubmit={(event) => void read(event)} className="mt-3 max-w-3xl">
      <label htmlFor="typed-sentence" className="text-sm text-ash">
        or describe your trip, like: 100ah agm, 120w roof panel, fridge and lights, 3 nights, June
      </label>
      <div className="flex gap-2">
        <input
          id="typed-sentence"
          className="field"
          maxLength={400}
          autoComplete="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onPaste={paste}
        />
        <Button type="submit">Use this</Button>
        <Button onClick={() => setLabel("")}>Label…</Button>
      </div>
      {problem && (
        <p role="alert" className="mt-1 text-danger">
          {problem}
        </p>
      )}
      {reading?.like_a_label && (
        <p className="mt-1 flex flex-wrap items-center gap-2">
          This looks like a label.
          <Button onClick={() => setLabel(text)}>Read it as a label</Button>
        </p>
      )}
      <Suspense fallback={null}>
        {label !== null && (
          <LabelDialog
            first={label}
            sentence={sentence}
            onTake={(next) => {
              setLabel(null);
              onLabel(next);
            }}
            onClose={() => setLabel(null)}
          />
        )}
      </Suspense>
      {reading && <AsRead reading={reading} onAnswer={onAnswer} />}
    </form>
  );
}

interface AsReadProps {
  reading: Reading;
  onAnswer: Props["onAnswer"];
}

function AsRead({ reading, onAnswer }: AsReadProps) {
  const guessed = reading.understood.some((one) => one.guess);
  return (
    <div role="status" className="mt-2 text-sm">
      {reading.asked.length > 0 && (
        <ul className="mb-1 flex flex-col gap-1" aria-label="Not understood">
          {reading.asked.map((asked, place) => (
            <li key={`${place}-${asked.typed}`} className="flex flex-wrap items-center gap-2">
              <strong className="rounded border-2 border-danger px-1.5 text-danger">
                {asked.typed}
              </strong>
              {asked.choices.length > 0 ? "is" : "was not understood"}
              {asked.choices.map((choice) => (
                <Button key={choice.text} onClick={() => onAnswer(choice.sentence, asked.typed)}>
                  {choice.text}
                </Button>
              ))}
            </li>
          ))}
        </ul>
      )}
      <ul className="flex flex-wrap gap-x-4 gap-y-0.5">
        {reading.understood.map((one) => (
          <li key={one.typed + one.taken_for}>
            <em>{one.typed}</em>:{" "}
            <span className={one.guess ? "border-b-2 border-dotted border-ash" : ""}>
              {one.taken_for}
              {one.guess && <span className="sr-only"> (a guess)</span>}
            </span>
          </li>
        ))}
      </ul>
      {guessed && <p className="text-ash">Dotted: a guess. Press that part to say it.</p>}
    </div>
  );
}
