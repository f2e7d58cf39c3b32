import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../../api/client";
import { type OwnThing, useOwnThings } from "../../../plan/OwnShelf";
import { Button } from "../../../ui/Button";
import { FileKey } from "../../../ui/FileKey";

const KINDS: Record<OwnThing["kind"], string> = {
  appliance: "appliance",
  panel: "panel",
  battery: "battery",
};

/** My gear: what is kept for every plan, and the way in and out as files. */
export function OwnShelf() {
  const things = useOwnThings();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const again = () => queries.invalidateQueries({ queryKey: ["shelf"] });
  async function bring(file: File) {
    const response = await fetch("/api/shelf/file", {
      method: "POST",
      body: await file.arrayBuffer(),
    });
    setProblem(response.ok ? null : (await response.json()).detail);
    await again();
  }
  async function forget(thing: OwnThing) {
    const path = { thing_id: thing.id };
    await answer(client.DELETE("/api/shelf/{thing_id}", { params: { path } }));
    await again();
  }
  async function price(thing: OwnThing, text: string) {
    const euro = text.trim() === "" ? null : Number(text.replace(",", "."));
    if (euro === thing.euro) return;
    if (Number.isNaN(euro)) {
      setProblem(`${text} is no price. Type 0 to 100000, or leave it empty.`);
      return;
    }
    const { name, note, appliance, panel, battery } = thing;
    try {
      const body = { name, note, euro, appliance, panel, battery };
      await answer(client.POST("/api/shelf", { body }));
      setProblem(null);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
    await again();
  }
  return (
    <section aria-labelledby="shelf" className="mt-8">
      <div className="flex flex-wrap items-center gap-3">
        <h2 id="shelf" className="text-xl">
          My gear
        </h2>
        <span className="ml-auto flex flex-wrap gap-3">
          {things.length > 0 && (
            <>
              <a className="key" href="/api/shelf/file/json" download>
                Save as JSON
              </a>
              <a className="key" href="/api/shelf/file/csv" download>
                Save as CSV
              </a>
            </>
          )}
          <FileKey text="Import a list" accept=".json,.csv" onFile={(file) => void bring(file)} />
        </span>
      </div>
      {problem && (
        <p role="alert" className="mt-1 text-danger">
          {problem}
        </p>
      )}
      {things.length === 0 ? (
        <p className="mt-1 text-ash">
          Nothing yet. “Keep in my gear” in the sheet of an appliance, a panel or a battery keeps
          it, with what you measured, for every plan to come.
        </p>
      ) : (
        <ul className="mt-2 grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
          {things.map((thing) => (
            <li key={thing.id} className="card flex items-center gap-3">
              <span className="min-w-0 flex-1">
                <strong>{thing.name}</strong>
                <span className="block text-sm text-ash">{factsOf(thing)}</span>
              </span>
              <label className="text-sm text-ash">
                price
                <input
                  className="field w-20 text-right"
                  inputMode="decimal"
                  aria-label={`Price of ${thing.name}`}
                  defaultValue={thing.euro ?? ""}
                  onBlur={(event) => void price(thing, event.target.value)}
                />
              </label>
              <Button
                look="link"
                aria-label={`Take ${thing.name} off the shelf`}
                onClick={() => void forget(thing)}
              >
                remove
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function factsOf({ kind, appliance, panel, battery, euro }: OwnThing): string {
  const price = euro == null ? "" : `, ${euro} €`;
  if (appliance) return `${KINDS[kind]}, ${appliance.power_w} W, ${appliance.figure}${price}`;
  if (panel) return `${KINDS[kind]}, ${panel.power_w} W${price}`;
  return `${KINDS[kind]}, ${battery?.capacity_ah} Ah${price}`;
}
