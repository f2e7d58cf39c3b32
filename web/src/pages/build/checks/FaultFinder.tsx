import { useState } from "react";
import { Cautions } from "../../../shell/header/Caution";
import { Choice } from "../../../ui/fields/Choice";
import type { ViewProps } from "../BuildPage";
import { Questions } from "./Questions";

/** What is done right now, folded under what is seen. */
function Emergencies({ all }: { all: ViewProps["build"]["emergencies"] }) {
  return (
    <section
      className="mb-4 rounded-lg border-2 border-danger p-3"
      aria-label="In an emergency"
      data-testid="emergencies"
    >
      <h2 className="text-lg text-danger">In an emergency, first of all</h2>
      <div className="gap-x-8 sm:columns-2">
        {all.map((one) => (
          <details key={one.key} className="break-inside-avoid border-t border-line">
            <summary className="min-h-11 cursor-pointer py-2 font-semibold">{one.title}</summary>
            <ol className="list-decimal pb-2 pl-6">
              {one.steps.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </ol>
            <p className="pb-2 text-sm text-ash">{one.source}</p>
          </details>
        ))}
      </div>
    </section>
  );
}

/** From where trouble is seen to its cause in this box, one question at a time. */
export function FaultFinder({ build }: ViewProps) {
  const { symptoms } = build;
  const places = [...new Set(symptoms.map((one) => one.where))];
  const [place, setPlace] = useState(places[0] ?? "");
  const [wanted, setWanted] = useState("");
  const here = symptoms.filter((one) => one.where === place);
  const symptom = here.find((one) => one.key === wanted) ?? here[0];
  if (!symptom) return null;
  const go = (key: string) => {
    const one = symptoms.find((other) => other.key === key);
    if (!one) return;
    setPlace(one.where);
    setWanted(one.key);
  };
  return (
    <section className="plate px-4 py-3" aria-label="Fault finder">
      <Emergencies all={build.emergencies} />
      <Choice
        label="Where is it seen?"
        showLabel
        value={place}
        options={places.map((value) => ({ value, text: value }))}
        onChange={(value) => {
          setPlace(value);
          setWanted("");
        }}
      />
      {here.length > 1 && (
        <Choice
          label="What is wrong?"
          showLabel
          value={symptom.key}
          options={here.map((one) => ({ value: one.key, text: one.text }))}
          onChange={setWanted}
        />
      )}
      <Questions key={symptom.key} symptom={symptom} symptoms={symptoms} onGo={go} />
      <p className="mt-2 text-sm text-ash">
        The likeliest first for this box: an order by judgement, not a measured chance. Fuse out
        before hands go in.
      </p>
      <Cautions about={["battery", "mains"]} />
    </section>
  );
}
