import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import type { Sentence } from "./sentence";

interface Props {
  sentence: Sentence;
  onRead: (next: Sentence) => void;
}

/** The same in typed words; it says what it understood, word by word. */
export function Typed({ sentence, onRead }: Props) {
  const [text, setText] = useState("");
  const [reading, setReading] = useState<Schemas["Reading"] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  async function read(event: FormEvent) {
    event.preventDefault();
    if (!text.trim()) return;
    try {
      const body = { text, base: sentence };
      const found = await answer(client.POST("/api/sentence/read", { body }));
      setReading(found);
      setProblem(null);
      onRead(found.sentence);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  }
  return (
    <form onSubmit={(event) => void read(event)} className="mt-3 max-w-3xl">
      <label htmlFor="typed-sentence" className="text-sm text-ash">
        or type it, like: 100ah agm, 120w, fridge and lights, 3 nights, June
      </label>
      <div className="flex gap-2">
        <input
          id="typed-sentence"
          className="field"
          maxLength={400}
          autoComplete="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit">Read it</Button>
      </div>
      {problem && (
        <p role="alert" className="mt-1 text-danger">
          {problem}
        </p>
      )}
      {reading && (
        <div role="status" className="mt-2 text-sm">
          <ul className="flex flex-wrap gap-x-4 gap-y-0.5">
            {reading.understood.map((one) => (
              <li key={one.typed + one.taken_for}>
                <em>{one.typed}</em>: {one.taken_for}
              </li>
            ))}
          </ul>
          {reading.left.length > 0 && (
            <p className="font-semibold text-danger">
              Not understood: {reading.left.join(", ")}. Press that part of the sentence instead.
            </p>
          )}
        </div>
      )}
    </form>
  );
}
