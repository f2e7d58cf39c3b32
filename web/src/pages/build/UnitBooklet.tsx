import type { BuildReport } from "../../api/client";
import { Cautions } from "../../shell/header/Caution";

/** What the owner of a ready-made unit needs: in, out, what to read on it, what voids it. */
export function UnitBooklet({ build }: { build: BuildReport }) {
  return (
    <section className="plate grid gap-4 px-4 py-3" aria-label="The unit">
      <p>
        A ready-made unit is never opened. Its own book comes before this page, which says what of
        it matters on this plan.
      </p>
      <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
        {build.unit.map((part) => (
          <section key={part.key} aria-label={part.title}>
            <h2 className="text-lg">{part.title}</h2>
            <dl className="grid">
              {part.notes.map((note) => (
                <div key={note.key} className="border-t border-line py-2">
                  <dt className="font-semibold">
                    {note.about}
                    {note.figure && <span className="font-normal">: {note.figure}</span>}
                  </dt>
                  <dd className="text-ash">{note.text}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
      <Cautions about={["battery", "mains"]} />
    </section>
  );
}
