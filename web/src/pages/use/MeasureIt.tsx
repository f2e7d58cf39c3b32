import { useState } from "react";
import { type Appliance, answer, client, refusalIn } from "../../api/client";
import type { components } from "../../api/schema.gen";
import { usePlanStore } from "../../plan/context";
import { withRemedy } from "../../plan/judgements";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";
import { NumberField } from "../../ui/fields/NumberField";

type Counted = components["schemas"]["Counted"];
type Measured = components["schemas"]["MeasuredReport"];

/** Two readings of a counter and the time between, turned into a figure that replaces the guess. */
export function MeasureIt({ appliance }: { appliance: Appliance }) {
  const store = usePlanStore();
  const [counted, setCounted] = useState<Partial<Counted>>({ counter: "Ah" });
  const [got, setGot] = useState<Measured | null>(null);
  const [text, setText] = useState<string | null>(null);
  const fridge = appliance.pattern?.type === "fridge";
  const counter = counted.counter ?? "Ah";

  async function put(part: Partial<Counted>) {
    const next = { ...counted, ...part };
    setCounted(next);
    const { before, after, hours } = next;
    if (before == null || after == null || hours == null) return;
    const full = { others_w: 0, counter, ...next, appliance: appliance.id, before, after, hours };
    try {
      const body = { document: store.snapshot().draft, counted: full };
      setGot(await answer(client.POST("/api/measure", { body })));
      setText(null);
    } catch (error) {
      setGot(null);
      setText(refusalIn(error).message);
    }
  }

  return (
    <div className="flex flex-col gap-3">
      <p className="text-sm text-ash">
        Switch everything else off, leave it on for some hours, best a day, and read the counter of
        what went out of the battery, twice.
      </p>
      <Choice
        label="The counter shows"
        showLabel
        value={counter}
        options={[
          { value: "Ah", text: "Ah" },
          { value: "Wh", text: "Wh" },
        ]}
        onChange={(next) => void put({ counter: next })}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="First reading"
          value={counted.before}
          limit="Counted.before"
          unit={counter}
          onCommit={(before) => void put({ before })}
        />
        <NumberField
          label="Second reading"
          value={counted.after}
          limit="Counted.after"
          unit={counter}
          onCommit={(after) => void put({ after })}
        />
        <NumberField
          label="Hours between"
          value={counted.hours}
          limit="Counted.hours"
          onCommit={(hours) => void put({ hours })}
        />
        <NumberField
          label="What else ran took"
          value={counted.others_w}
          limit="Counted.others_w"
          empty="nothing"
          onClear={() => void put({ others_w: 0 })}
          onCommit={(others_w) => void put({ others_w })}
        />
        {fridge && (
          <NumberField
            label="Air around it"
            value={counted.air_c}
            limit="Counted.air_c"
            empty="as its share"
            onClear={() => void put({ air_c: null })}
            onCommit={(air_c) => void put({ air_c })}
          />
        )}
      </div>
      {text && (
        <p role="alert" className="text-sm text-danger">
          {text}
        </p>
      )}
      {got && (
        <>
          <p data-testid="measured">
            {got.text} Day and night that would be {(got.a_day_wh / 1000).toFixed(2)} kWh.
          </p>
          <Button
            className="self-start"
            onClick={() =>
              store.edit((plan) => withRemedy(plan, got.replaces), `measured ${appliance.name}`)
            }
          >
            {got.replaces.text}
          </Button>
        </>
      )}
    </div>
  );
}
