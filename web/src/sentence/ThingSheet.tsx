import { useState } from "react";
import { Button } from "../ui/Button";
import { Stepper } from "../ui/fields/Stepper";
import type { SheetProps } from "./Sheet";
import type { Thing } from "./sentence";
import { ThingFigures } from "./ThingFigures";

const MOST_THINGS = 60;

/** What runs: first what is ticked, each with its figures, then everything else to tick. */
export function ThingSheet({ sentence, choices, uses, onChange }: SheetProps) {
  const [shown, setShown] = useState<number | null>(null);
  const { things } = sentence;
  const put = (next: Thing[]) => onChange({ ...sentence, things: next });
  const kinds = new Set(things.map((thing) => thing.kind));
  return (
    <div className="flex flex-col gap-1.5">
      {things.length > 0 && (
        <ul aria-label="What runs" className="flex flex-col gap-1.5">
          {things.map((thing, place) => {
            const usual = choices.things.find((one) => one.key === thing.kind);
            if (!usual) return null;
            const name = thing.name ?? usual.text;
            const change = (part: Partial<Thing>) => put(things.with(place, { ...thing, ...part }));
            return (
              <li key={`${place}-${thing.id ?? thing.kind}`}>
                <div className="flex items-center gap-1.5">
                  <Button
                    look="bare"
                    aria-pressed
                    className="tick min-w-0 flex-1 justify-start"
                    onClick={() => {
                      setShown(null);
                      put(things.toSpliced(place, 1));
                    }}
                  >
                    <span aria-hidden="true" className="w-4">
                      ✓
                    </span>
                    <span className="truncate">{name}</span>
                  </Button>
                  {usual.countable && (
                    <Stepper
                      label={usual.many}
                      value={thing.count}
                      least={1}
                      most={12}
                      onChange={(count) => change({ count })}
                    />
                  )}
                </div>
                <ThingFigures
                  name={name}
                  usual={usual}
                  thing={thing}
                  use={uses?.get(thing.id ?? `${thing.kind}${place + 1}`)}
                  open={shown === place}
                  onChange={change}
                />
              </li>
            );
          })}
        </ul>
      )}
      <ul aria-label="What else" className="flex flex-col gap-1.5">
        {choices.things
          .filter((one) => !kinds.has(one.key) || one.key === "other")
          .map((one) => (
            <li key={one.key}>
              <Button
                look="bare"
                aria-pressed={false}
                disabled={things.length >= MOST_THINGS}
                className="tick w-full justify-start"
                onClick={() => {
                  setShown(things.length);
                  put([...things, { kind: one.key, count: 1 }]);
                }}
              >
                <span aria-hidden="true" className="w-4" />
                {one.text}
              </Button>
            </li>
          ))}
      </ul>
    </div>
  );
}
