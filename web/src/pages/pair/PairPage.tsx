import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { Button } from "../../ui/Button";
import { withinApp } from "./withinApp";

/** Where a device of the camp's network asks to be let in. */
export function PairPage() {
  const [given, setGiven] = useState(window.location.hash.slice(1));
  const [name, setName] = useState(guessedName);
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  async function ask(event: FormEvent) {
    event.preventDefault();
    setAsking(true);
    try {
      await answer(client.POST("/api/sharing/pair", { body: { given, name } }));
      // A whole new page: what was refused before is asked for again.
      const to = new URLSearchParams(window.location.search).get("to");
      window.location.replace(withinApp(to));
    } catch (error) {
      setProblem((error as Error).message);
      setAsking(false);
    }
  }
  return (
    <main className="mx-auto mt-10 max-w-md px-4 pb-10">
      <form className="plate flex flex-col gap-3 p-6" onSubmit={(event) => void ask(event)}>
        <h1 className="text-xl">Let this device in</h1>
        <p>
          On the machine that Odd Kettle runs on, open its first page and press “Open it on a
          phone”. It shows a code.
        </p>
        <label className="flex flex-col gap-1">
          The code, or the pass phrase
          <input
            className="field text-2xl"
            value={given}
            required
            maxLength={200}
            autoComplete="off"
            autoCapitalize="none"
            onChange={(event) => setGiven(event.target.value)}
          />
        </label>
        <label className="flex flex-col gap-1">
          What this device is called in the log
          <input
            className="field"
            value={name}
            required
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        {problem && (
          <p role="alert" className="text-danger">
            {problem}
          </p>
        )}
        <Button type="submit" className="self-start" disabled={asking}>
          Let me in
        </Button>
        <p className="text-sm text-ash">
          The device stays let in for 180 days, or until it is sent away on that machine.{" "}
          <Link className="underline" to="/">
            Back to the first page
          </Link>
        </p>
      </form>
    </main>
  );
}

function guessedName(): string {
  return window.matchMedia("(pointer: coarse)").matches ? "Phone" : "Laptop";
}
