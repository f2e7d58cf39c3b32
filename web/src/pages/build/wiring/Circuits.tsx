import { useRef } from "react";
import { useSearchParams } from "react-router";
import type { CircuitReport } from "../../../api/client";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { gravest, JudgementCard, Mark } from "../../../plan/judgements";
import { shortFigure } from "../../../quantities/units";
import { Button } from "../../../ui/Button";
import { Wide } from "../../../ui/Wide";
import type { ViewProps } from "../BuildPage";
import { BoardSettings } from "./BoardSettings";
import { CircuitSheet } from "./CircuitSheet";
import { type Chosen, chosenBy, WIRE } from "./circuits";
import { MainsOutlets } from "./MainsOutlets";
import { addOutlet, freeOutlet } from "./outlets";
import { SchematicView } from "./SchematicView";

/** The schematic, every circuit in numbers, and the sheet of the one that is looked at. */
export function Circuits({ build }: ViewProps) {
  const store = usePlanStore();
  const planId = usePlanPart((state) => state.plan.id);
  const [query, setQuery] = useSearchParams();
  const asked = query.get("circuit");
  const chosen = build.circuits.find((one) => one.key === asked) ?? build.circuits[0];
  const sheet = useRef<HTMLElement>(null);
  const table = useRef<HTMLDivElement>(null);
  const choose = (key: string) => {
    setQuery({ circuit: key }, { replace: true });
    // On a narrow screen the sheet is far below what was pressed.
    if (window.matchMedia("(max-width: 1023px)").matches) {
      sheet.current?.scrollIntoView({ block: "start" });
    }
  };
  const add = (usb: boolean) => {
    const outlet = freeOutlet(store.snapshot().draft);
    store.edit((plan) => addOutlet(plan, outlet, usb), "an outlet added");
    choose(outlet);
  };
  // What is only worth knowing stands with its part on the other pages.
  const told = build.judgements.filter(
    (one) => one.severity !== "note" || one.part.startsWith("circuit:"),
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="grid min-w-0 gap-3">
        <section className="plate min-w-0 px-3 py-3" aria-label="Wiring drawing and circuits">
          <SchematicView
            sheets={build.schematic}
            circuits={build.circuits}
            chosen={asked ? (chosen?.number ?? null) : null}
            onChoose={(number) => {
              const one = build.circuits.find((other) => other.number === number);
              if (one) choose(one.key);
            }}
          />
          <p className="mt-1 flex flex-wrap gap-x-4 text-sm text-ash">
            <span>Press a wire or a part to open its circuit.</span>
            <a className="underline" href={`/api/plans/${planId}/print/schematic.svg`} download>
              Drawing as SVG
            </a>
            <a className="underline" href={`/api/plans/${planId}/print/schematic.pdf`}>
              as PDF
            </a>
          </p>
        </section>
        <div ref={table} className="min-w-0 scroll-mt-2">
          <CircuitTable build={build} chosen={chosen?.key ?? null} onChoose={choose}>
            {build.fit && (
              <p className="mt-2 flex flex-wrap gap-2">
                <Button onClick={() => add(false)}>Add a 12 V outlet</Button>
                <Button onClick={() => add(true)}>Add a USB outlet</Button>
              </p>
            )}
          </CircuitTable>
        </div>
        <BoardSettings shortA={build.short_a} />
        <MainsOutlets />
      </div>
      <aside
        ref={sheet}
        className="plate flex scroll-mt-2 flex-col gap-3 px-4 py-3"
        aria-label="The chosen circuit"
      >
        <Button
          look="link"
          className="self-start text-sm lg:hidden"
          onClick={() => table.current?.scrollIntoView({ block: "start" })}
        >
          ↑ all circuits
        </Button>
        {told.length > 0 && (
          <div className="flex flex-col gap-3 rounded-lg bg-sun-tint p-2" data-testid="judged">
            {told.map((one, n) => (
              <JudgementCard key={`${one.code}-${n}`} judgement={one} />
            ))}
          </div>
        )}
        {chosen && (
          <CircuitSheet
            key={chosen.key}
            circuit={chosen}
            build={build}
            onChange={store.edit}
            onChoose={choose}
          />
        )}
      </aside>
    </div>
  );
}

interface TableProps {
  build: ViewProps["build"];
  chosen: string | null;
  onChoose: (key: string) => void;
  children: React.ReactNode;
}

function CircuitTable({ build, chosen, onChoose, children }: TableProps) {
  return (
    <section className="plate min-w-0 px-3 py-3" aria-label="All circuits">
      <Wide label="Circuits in numbers">
        <table className="w-full min-w-[44rem] border-collapse text-left">
          <thead className="text-sm text-ash">
            <tr>
              <th className="py-1 pr-2 font-normal">No.</th>
              <th className="pr-2 font-normal">Circuit</th>
              <th className="pr-2 text-right font-normal">for hours, seen</th>
              <th className="pr-2 text-right font-normal">run</th>
              <th className="pr-2 font-normal">cable</th>
              <th className="pr-2 font-normal">protection</th>
              <th className="pr-2 text-right font-normal">drop</th>
            </tr>
          </thead>
          <tbody>
            {build.circuits.map((circuit) => (
              <Row
                key={circuit.key}
                circuit={circuit}
                build={build}
                chosen={circuit.key === chosen}
                onChoose={() => onChoose(circuit.key)}
              />
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="mt-1 text-sm text-ash">
        <Yours>bold with a pin</Yours> you fixed; <span className="italic">slanted</span> another
        page states; plain the tool chose: the smallest that will do.
      </p>
      {children}
    </section>
  );
}

interface RowProps {
  circuit: CircuitReport;
  build: ViewProps["build"];
  chosen: boolean;
  onChoose: () => void;
}

function Row({ circuit, build, chosen, onChoose }: RowProps) {
  const grave = gravest(build.judgements.filter((one) => one.part === `circuit:${circuit.key}`));
  const over = circuit.drop_percent > circuit.limit_percent;
  return (
    <tr className={`border-t border-line align-top ${chosen ? "bg-hover" : ""}`}>
      <td className="py-1 pr-2">
        <span
          className="inline-grid h-6 w-7 place-items-center rounded border-2 text-sm font-bold"
          style={{ borderColor: WIRE[circuit.ink].colour }}
        >
          {circuit.number}
        </span>
      </td>
      <td className="py-1 pr-2">
        <Button
          look="link"
          className="text-left font-semibold decoration-dotted"
          onClick={onChoose}
        >
          {circuit.own ? <Yours>{circuit.name}</Yours> : circuit.name}
        </Button>{" "}
        {grave && <Mark severity={grave} />}
        <span className="block text-sm text-ash">
          {circuit.begins} to {circuit.ends}
        </span>
      </td>
      <td className="py-1 pr-2 text-right whitespace-nowrap">
        {shortFigure(circuit.continuous_a)} A
        <span className="block text-sm text-ash">{shortFigure(circuit.seen_a)} A</span>
      </td>
      <td className="py-1 pr-2 text-right whitespace-nowrap">
        <By circuit={circuit} name="run_m">
          {shortFigure(circuit.run_m)} m
        </By>
      </td>
      <td className="py-1 pr-2 whitespace-nowrap">
        <By circuit={circuit} name="cable_mm2">
          {circuit.cable}
        </By>
        <span className="block text-sm text-ash">bears {Math.round(circuit.ampacity_a)} A</span>
      </td>
      <td className="py-1 pr-2">
        <By circuit={circuit} name={circuit.fixed.includes("protection") ? "protection" : "fuse_a"}>
          {circuit.fuse}
        </By>
        {circuit.short && <span className="block text-sm text-ash">{circuit.short}</span>}
      </td>
      <td
        className={`py-1 pr-2 text-right whitespace-nowrap ${over ? "font-bold text-danger" : ""}`}
      >
        {circuit.drop_v.toFixed(2)} V
        <span className="block text-sm">
          {circuit.drop_percent.toFixed(1)} of {circuit.limit_percent.toFixed(0)} %
        </span>
      </td>
    </tr>
  );
}

interface ByProps {
  circuit: CircuitReport;
  name: keyof Chosen;
  children: React.ReactNode;
}

/** A value that looks like who chose it. */
function By({ circuit, name, children }: ByProps) {
  const by = chosenBy(circuit, name);
  if (by === "you") return <Yours>{children}</Yours>;
  return <span className={by === "box" ? "italic" : undefined}>{children}</span>;
}

function Yours({ children }: { children: React.ReactNode }) {
  return (
    <strong className="text-ink">
      <span aria-hidden="true">⚲ </span>
      {children}
      <span className="sr-only"> (fixed by you)</span>
    </strong>
  );
}
