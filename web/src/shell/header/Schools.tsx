import { useEffect, useState } from "react";
import { answer, client, type DesignAlternative, Refusal } from "../../api/client";
import { usePlanPart, usePlanStore, useUnit } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { moneyText, weightText } from "../../quantities/habits";
import { amountText, percentText, spanText } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";

/** What the other schools would cost this plan, asked for only when it is opened. */
export function Schools({ part }: { part: string }) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="border-t border-line pt-2"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer rounded py-1 font-head font-semibold">
        What another choice would cost
      </summary>
      {open && <Found part={part} />}
    </details>
  );
}

function Found({ part }: { part: string }) {
  const draft = usePlanPart((state) => state.draft);
  const [schools, setSchools] = useState<DesignAlternative[] | null>(null);
  const [text, setText] = useState("");
  useEffect(() => {
    let wanted = true;
    // A drag asks many times a second; what is compared here may wait until it rests.
    const pause = window.setTimeout(() => {
      answer(client.POST("/api/schools", { body: draft })).then(
        (next) => wanted && setSchools(next),
        (error: unknown) => wanted && setText(error instanceof Refusal ? error.message : ""),
      );
    }, 150);
    return () => {
      wanted = false;
      window.clearTimeout(pause);
    };
  }, [draft]);
  const found = schools?.filter((school) => school.part === part);
  if (text) return <p role="alert">{text}</p>;
  if (!found) return <p className="text-ash">Running each of them…</p>;
  if (found.length === 0) return <p className="text-sm text-ash">There is no other school here.</p>;
  return found.map((school) => <Compared key={school.key} school={school} />);
}

function Compared({ school }: { school: DesignAlternative }) {
  const store = usePlanStore();
  const unit = useUnit();
  const habits = useHabits();
  const battery = school.key === "chemistry";
  return (
    <div className="mt-1 text-sm" data-testid="school">
      <p className="font-semibold">{school.asks}</p>
      <p className="text-ash">{school.text}</p>
      {school.options.map((option) => {
        const { usable, taken_a_day: taken } = option;
        return (
          <div
            key={option.text}
            className={`mt-1.5 border-l-4 pl-2 ${option.chosen ? "border-sun" : "border-line"}`}
          >
            <p className="flex items-center justify-between gap-2">
              <strong>
                {option.text}
                {option.chosen && " (yours)"}
              </strong>
              {option.try_it && (
                <Button
                  look="link"
                  aria-label={option.try_it.text}
                  onClick={() => {
                    const { try_it } = option;
                    if (try_it) store.edit((plan) => withRemedy(plan, try_it), try_it.text);
                  }}
                >
                  try it
                </Button>
              )}
            </p>
            {option.refused && <p className="text-danger">▲ {option.refused}</p>}
            {option.lowest_percent != null && usable && taken && (
              <p>
                lowest {percentText(option.lowest_percent)}
                {battery && `, ${amountText(usable, unit)} ${unit} usable`},{" "}
                {amountText(taken, unit)} {unit} a day in
                {option.euro ? `, ${moneyText(habits, option.euro.low, option.euro.high)}` : ""}
                {option.kg ? `, ${weightText(option.kg, habits)}` : ""}
                {battery && option.years && `, lasts ${spanText(option.years)} years of such days`}
              </p>
            )}
          </div>
        );
      })}
      <p className="mt-1 text-xs text-ash">
        Each was run on this very trip. Prices and weights are typical of plain parts in 2026, not
        an offer; years until 80 % of the capacity is left, at most 30.
      </p>
    </div>
  );
}
