import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { Switch } from "../../ui/fields/Switch";
import { More } from "../../ui/More";
import { OnwardChoice, useOnward } from "./Onward";
import { useLines } from "./useLines";

type Line = Schemas["MendProgress"] | Schemas["Mended"];
type Mend = Schemas["Mend"];
type Bother = Schemas["Bother"];

const KEPT = "oddkettle.bother";
const USUAL: Bother = {
  start: 6,
  minute: 0.4,
  hookup: 40,
  half: 12,
  without: 30,
  warmer: 5,
  turn: 15,
  habit: 3,
};
const COSTS: readonly (readonly [keyof Bother, string])[] = [
  ["start", "To start the engine on another day"],
  ["minute", "A minute of driving"],
  ["hookup", "A night on mains"],
  ["half", "Something half as long"],
  ["without", "Going without something"],
  ["warmer", "The cool box two degrees warmer"],
  ["turn", "Turning the panel on every day"],
  ["habit", "A switch or plug to think of"],
];

function keptBother(): Bother {
  try {
    return { ...USUAL, ...JSON.parse(localStorage.getItem(KEPT) ?? "{}") };
  } catch {
    return USUAL;
  }
}

/** The least bother, over combinations of changes, that makes it sure. */
export function CheapestMend() {
  const store = usePlanStore();
  const document = usePlanPart((state) => state.plan.document);
  const id = usePlanPart((state) => state.plan.id);
  const { lines, busy, text, ask, cancel } = useLines<Line>();
  const { track, onward, known } = useOnward();
  const [sure, setSure] = useState("90");
  const [shop, setShop] = useState(false);
  const [never, setNever] = useState<readonly string[]>([]);
  const [bother, setBother] = useState(keptBother);
  const mended = lines.find((line) => line.kind === "mended");
  const progress = lines.findLast((line) => line.kind === "progress");

  useEffect(() => {
    if (!known) return;
    const asked = { sure_percent: Number(sure), shop, never, bother };
    if (onward) ask(`/api/plans/${id}/track/cheapest`, asked);
    else ask("/api/improve/mend", { document, asked });
  }, [ask, document, id, known, onward, sure, shop, never, bother]);

  const slots = [
    { slot: "drive", text: "Driving" },
    { slot: "hookup", text: "Nights on mains" },
    ...document.use.appliances
      .filter((one) => one.on && one.priority !== "must")
      .map((one) => ({ slot: `appliance:${one.id}`, text: one.name })),
  ];
  const toggle = (slot: string) =>
    setNever(never.includes(slot) ? never.filter((one) => one !== slot) : [...never, slot]);
  const edits = (mend: Mend) => withRemedy(document, { text: "", edits: mend.edits });
  return (
    <section aria-label="Easiest fix">
      <h1 className="text-2xl leading-tight" data-testid="headline">
        {mended ? mended.text : "Looking for the easiest fix…"}
      </h1>
      <div className="my-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <OnwardChoice track={track} onward={onward} />
        <Choice
          label="How sure it should be"
          showLabel
          value={sure}
          options={["80", "90", "95", "98"].map((value) => ({ value, text: `${value} %` }))}
          onChange={setSure}
        />
        {!onward && <Switch label="Parts may be bought" checked={shop} onChange={setShop} />}
      </div>
      {text && (
        <p role="alert" className="text-danger">
          {text}
        </p>
      )}
      {busy && progress && (
        <p className="my-2 flex flex-wrap items-center gap-3">
          <progress value={progress.tried} max={progress.of} aria-label="Combinations tried" />
          best so far: {Math.round(progress.best_percent)} trips of 100
          <Button onClick={cancel}>Stop</Button>
        </p>
      )}
      {mended && (
        <ol className="flex flex-col gap-3" data-testid="mends">
          {mended.mends.map((mend, i) => (
            <li key={mend.steps.join()} className={i === 0 ? "plate p-4" : "card"}>
              <ul className="list-disc pl-5 text-lg">
                {mend.steps.map((step) => (
                  <li key={step}>{step}</li>
                ))}
              </ul>
              <p className="mt-1 flex flex-wrap items-center gap-3">
                <span>
                  Then it lasts in <strong>{Math.round(mend.lasts_percent)} of 100</strong>, for{" "}
                  {Math.round(mend.bother)} points of effort.
                </span>
                <Button onClick={() => store.try(edits(mend), mend.steps.join("; "))}>Try</Button>
                <Button
                  look="bare"
                  className={i === 0 ? "key key-on" : "key"}
                  onClick={() => store.commit(edits(mend), mend.steps.join("; ").slice(0, 120))}
                >
                  Keep
                </Button>
              </p>
            </li>
          ))}
        </ol>
      )}
      {mended?.single && mended.single.bother > (mended.mends[0]?.bother ?? 0) && (
        <p className="mt-2 text-ash">
          The best single change is {mended.single.steps[0]}, for {Math.round(mended.single.bother)}{" "}
          points.
        </p>
      )}
      <div className="plate mt-4 flex flex-col gap-3 px-4 py-3">
        <More text="What is never to change">
          <div className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
            {slots.map(({ slot, text: name }) => (
              <Switch
                key={slot}
                label={name}
                checked={never.includes(slot)}
                onChange={() => toggle(slot)}
              />
            ))}
          </div>
          <p className="text-sm text-ash">
            What must run, and what is medical, is never switched off.
          </p>
        </More>
        <More text="How much each kind of change bothers you">
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            {COSTS.map(([key, name]) => (
              <label key={key} className="text-sm text-ash">
                {name}
                <input
                  className="field text-right"
                  inputMode="decimal"
                  defaultValue={bother[key]}
                  onBlur={(event) => {
                    const value = Number(event.target.value.replace(",", "."));
                    const good = event.target.value.trim() !== "" && value >= 0 && value <= 100;
                    if (!good) event.target.value = String(bother[key]);
                    else if (value !== bother[key]) {
                      const next = { ...bother, [key]: value };
                      localStorage.setItem(KEPT, JSON.stringify(next));
                      setBother(next);
                    }
                  }}
                />
              </label>
            ))}
          </div>
          <p className="text-sm text-ash">
            Points are your own; 0 to 100. They are compared with one another only.
          </p>
        </More>
      </div>
    </section>
  );
}
