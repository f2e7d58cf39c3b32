import { useState } from "react";
import { Cautions } from "../../shell/Caution";
import { Choice } from "../../ui/Choice";
import type { ViewProps } from "./BuildPage";

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

/** From a symptom to its likely causes in this box, each with a measurement. */
export function FaultFinder({ build }: ViewProps) {
  const [wanted, setWanted] = useState(build.symptoms[0]?.key ?? "");
  const symptom = build.symptoms.find((one) => one.key === wanted) ?? build.symptoms[0];
  if (!symptom) return null;
  return (
    <section className="plate px-4 py-3" aria-label="Fault finder">
      <Emergencies all={build.emergencies} />
      <Choice
        label="What is wrong?"
        showLabel
        value={symptom.key}
        options={build.symptoms.map((one) => ({ value: one.key, text: one.text }))}
        onChange={setWanted}
      />
      <ol className="mt-3">
        {symptom.causes.map((cause, n) => (
          <li
            key={cause.key}
            className="grid grid-cols-[2rem_1fr] gap-x-2 border-t border-line py-2.5"
          >
            <span className="font-head text-xl font-bold text-rim-soft">{n + 1}</span>
            <div className="grid gap-x-5 gap-y-1 sm:grid-cols-2">
              <p className="font-semibold sm:col-span-2">{cause.text}</p>
              <p>
                <span className="text-sm text-ash">measure </span>
                {cause.measure}
              </p>
              <p>
                <span className="text-sm text-ash">all is well when </span>
                <strong>{cause.shows}</strong>
              </p>
              <p className="text-ash sm:col-span-2">{cause.then}</p>
            </div>
          </li>
        ))}
      </ol>
      <p className="text-sm text-ash">
        The likeliest first for this box: an order by judgement, not a measured chance. Fuse out
        before hands go in.
      </p>
      <Cautions about={["battery", "mains"]} />
    </section>
  );
}
