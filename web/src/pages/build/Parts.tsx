import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import {
  answer,
  type ComparedUnit,
  client,
  type OwnedPart,
  type PartLine,
  refusalIn,
} from "../../api/client";
import { usePlanPart, usePlanStore } from "../../plan/context";
import { Mark } from "../../plan/judgements";
import { moneyText, weightText } from "../../quantities/habits";
import { shortFigure } from "../../quantities/units";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";
import { FileKey } from "../../ui/FileKey";
import { Fields, type Spec } from "../../ui/fields/Fields";
import { NumberField } from "../../ui/fields/NumberField";
import { TextField } from "../../ui/fields/TextField";
import { Wide } from "../../ui/Wide";
import type { ViewProps } from "./BuildPage";
import { withPart } from "./owned";
import { PartPopover } from "./PartPopover";
import { withBuild } from "./wiring/circuits";

const GROUPS: Record<string, string> = {
  battery: "Battery",
  charging: "Charging",
  panels: "Panels",
  use: "On the box",
  protection: "Protection",
  cable: "Cable",
  terminals: "Terminals and connectors",
  enclosure: "Box or case",
};

/** What to buy, what it weighs and costs, and what of it is there already. */
export function Parts({ build }: ViewProps) {
  const { parts } = build;
  const habits = useHabits();
  const known = usePlanPart((state) => state.draft.build.parts);
  const groups = [...new Set(parts.lines.map((line) => line.group))];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section className="plate min-w-0 px-3 py-3" aria-label="Parts list">
        <Wide label="Parts in numbers">
          <table className="w-full sm:min-w-[34rem] border-collapse text-left">
            <thead className="text-sm text-ash">
              <tr>
                <th className="pr-2 font-normal">have</th>
                <th className="pr-2 font-normal">part</th>
                <th className="pr-2 text-right font-normal">count</th>
                <th className="hidden pr-2 text-right font-normal sm:table-cell">weight</th>
                <th className="text-right font-normal">price</th>
              </tr>
            </thead>
            {groups.map((group) => (
              <tbody key={group}>
                <tr>
                  <th colSpan={5} className="pt-2 font-head">
                    {GROUPS[group] ?? group}
                  </th>
                </tr>
                {parts.lines
                  .filter((line) => line.group === group)
                  .map((line) => (
                    <Row key={line.key} line={line} own={known.find((o) => o.part === line.key)} />
                  ))}
              </tbody>
            ))}
          </table>
        </Wide>
      </section>
      <aside className="plate flex flex-col gap-3 px-4 py-3" aria-label="What it comes to">
        <div>
          <h2 className="text-lg">{moneyText(habits, parts.buy_low, parts.buy_high)} to buy</h2>
          <p className="text-sm text-ash">
            All of it, what you have too: {moneyText(habits, parts.all_low, parts.all_high)}.
          </p>
        </div>
        <p>
          <strong className="font-head">{weightText(parts.carried_kg, habits)}</strong> to carry,{" "}
          {weightText(parts.kg, habits)} with panels and what stays in the vehicle.
        </p>
        <p>
          {parts.per_kg}; {parts.per_euro}.
        </p>
        <AgainstUnit text={parts.ready_made} />
        <Compared />
        <Waste />
        <PriceFiles />
        <p className="text-sm text-ash">
          Hatched prices are guesses, typical of plain parts in 2026; press one and write your own.
        </p>
      </aside>
    </div>
  );
}

/** The box against a ready-made unit: by price, weight, lowest level, and then by its odds. */
function AgainstUnit({ text }: { text: string }) {
  const draft = usePlanPart((state) => state.draft);
  // Prices and places change nothing here: the answer is kept while only they do.
  const { build, ...rest } = draft;
  const odds = useQuery({
    queryKey: ["against-unit", JSON.stringify(rest), build.compared?.capacity_wh],
    queryFn: () => answer(client.POST("/api/build/against-unit", { body: draft })),
    enabled: draft.box.unit == null,
    placeholderData: keepPreviousData,
  });
  return (
    <p
      className="border-t border-line pt-2 text-sm"
      data-testid="ready-made"
      aria-busy={odds.isFetching}
    >
      {text} {odds.error ? <span role="alert">{odds.error.message}</span> : odds.data?.text}
    </p>
  );
}

const COMPARED: readonly Spec<ComparedUnit>[] = [
  { kind: "number", key: "euro", text: "Its price", empty: "a usual one" },
  { kind: "number", key: "capacity_wh", text: "On its label", empty: "as this box" },
  { kind: "number", key: "kg", text: "Weighs", empty: "as usual" },
];

/** The unit that one thinks of buying in place of the box. */
function Compared() {
  const store = usePlanStore();
  const compared = usePlanPart((state) => state.draft.build.compared);
  const unit = usePlanPart((state) => state.draft.box.unit);
  if (unit) return null;
  const set = (next: ComparedUnit | null, did: string) =>
    store.edit((plan) => withBuild(plan, { compared: next }), did);
  if (!compared) {
    return (
      <Button
        className="self-start"
        onClick={() => set({ name: "A ready-made unit" }, "entered a unit to compare with")}
      >
        Type the price of one you have in mind
      </Button>
    );
  }
  return (
    <div className="flex flex-col gap-3">
      <TextField
        label="The unit you have in mind"
        value={compared.name}
        onCommit={(name) => set({ ...compared, name }, "named the unit")}
      />
      <Fields
        model="ComparedUnit"
        part={compared}
        specs={COMPARED}
        onChange={(next) => set(next, "changed the unit to compare with")}
      />
      <Button className="self-start" onClick={() => set(null, "compares with a usual unit again")}>
        Compare with a usual one
      </Button>
    </div>
  );
}

function Row({ line, own }: { line: PartLine; own: OwnedPart | undefined }) {
  const store = usePlanStore();
  const habits = useHabits();
  const name = line.name;
  const part = own ?? { part: line.key, owned: false };
  function set(next: Partial<OwnedPart>) {
    store.edit(
      (plan) => withBuild(plan, { parts: withPart(plan.build.parts, { ...part, ...next }) }),
      `part: ${line.name}`.slice(0, 120),
    );
  }
  if (line.lacks) {
    return (
      <tr className="border-t border-line text-danger">
        <td className="py-1 pr-2">
          <Mark severity="danger" />
        </td>
        <td colSpan={4} className="py-1">
          <strong>{line.name}.</strong> {line.lacks}
        </td>
      </tr>
    );
  }
  return (
    <tr className={`border-t border-line ${line.owned ? "text-ash" : ""}`}>
      <td className="py-1 pr-2">
        <input
          type="checkbox"
          className="size-5 accent-[var(--color-rim)]"
          checked={line.owned}
          aria-label={`Have ${name}`}
          onChange={(event) => set({ owned: event.target.checked })}
        />
      </td>
      <td className="py-1 pr-2">{name}</td>
      <td className="py-1 pr-2 text-right whitespace-nowrap">
        {shortFigure(line.count)} {line.unit}
      </td>
      <td className="hidden py-1 pr-2 text-right whitespace-nowrap sm:table-cell">
        {line.kg < 0.05 ? "–" : weightText(line.kg, habits)}
      </td>
      <td className="py-1 text-right whitespace-nowrap">
        <PartPopover line={line} part={part} name={name} onChange={set} />
      </td>
    </tr>
  );
}

function Waste() {
  const store = usePlanStore();
  const waste = usePlanPart((state) => state.draft.build.waste_percent);
  return (
    <NumberField
      label="Cable bought beyond what is needed"
      value={waste}
      limit="Build.waste_percent"
      onCommit={(waste_percent) =>
        store.edit((plan) => withBuild(plan, { waste_percent }), "cable to spare")
      }
    />
  );
}

/** The list out as a table, and prices in from one. */
function PriceFiles() {
  const store = usePlanStore();
  const planId = usePlanPart((state) => state.plan.id);
  const [text, setText] = useState<{ text: string; bad: boolean } | null>(null);
  async function bring(file: File) {
    try {
      const body = { document: store.snapshot().draft, table: await file.text() };
      const got = await answer(client.POST("/api/build/prices", { body }));
      store.edit((plan) => withBuild(plan, { parts: got.parts }), "prices from a table");
      const left = got.unknown.length;
      const more = left
        ? ` ${left} are not of this box: ${got.unknown.slice(0, 3).join(", ")}.`
        : "";
      setText({ text: `${got.read} parts read.${more}`, bad: false });
    } catch (error) {
      setText({ text: `${refusalIn(error).message} Nothing was changed.`, bad: true });
    }
  }
  return (
    <div className="flex flex-wrap gap-2">
      <a className="key" href={`/api/plans/${planId}/print/parts.csv`} download>
        List as CSV
      </a>
      <FileKey text="Prices from a CSV" accept=".csv,.txt" onFile={(file) => void bring(file)} />
      {text && (
        <p
          role={text.bad ? "alert" : "status"}
          className={`w-full text-sm ${text.bad ? "text-danger" : ""}`}
        >
          {text.text}
        </p>
      )}
    </div>
  );
}
