import { useState } from "react";
import { FileKey } from "../../../ui/FileKey";

const FILES: readonly [string, string][] = [
  ["log", "the log"],
  ["samples", "the samples"],
  ["tracked", "the tracked level"],
];

/** Everything of the log as open files, and the plan with its log as one. */
export function LogFiles({ planId }: { planId: number }) {
  const [text, setText] = useState<string | null>(null);

  async function bring(file: File) {
    setText(null);
    const body = await file.arrayBuffer();
    const response = await fetch("/api/plans/archive", { method: "POST", body });
    const got = await response.json();
    if (response.ok) window.location.assign(`/plan/${got.id}/log`);
    else setText(got.detail);
  }

  return (
    <section className="plate px-4 py-3" aria-label="Files">
      <h2 className="text-lg">Files</h2>
      <ul className="mt-1 grid gap-1">
        {FILES.map(([what, name]) => (
          <li key={what}>
            {name}:{" "}
            {["csv", "json"].map((shape) => (
              <a
                key={shape}
                className="mr-3 underline"
                href={`/api/plans/${planId}/export/${what}.${shape}`}
                download
              >
                {shape.toUpperCase()}
                <span className="sr-only"> of {name}</span>
              </a>
            ))}
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        <a className="key" href={`/api/plans/${planId}/archive`} download>
          The plan with its log, as one file
        </a>
        <FileKey text="Open such a file" accept=".zip" onFile={(file) => void bring(file)} />
      </div>
      {text && (
        <p role="alert" className="mt-2 text-danger">
          {text}
        </p>
      )}
    </section>
  );
}
