import { type KeyboardEvent, useRef, useState } from "react";
import type { BuildReport, FaceName, FittingReport } from "../../../api/client";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import { NumberField } from "../../../ui/fields/NumberField";
import { Select } from "../../../ui/fields/Select";
import type { ViewProps } from "../BuildPage";
import { withBuild } from "../wiring/circuits";
import { arrowStep, movedItem } from "./placing";
import { useMillimetres } from "./useMillimetres";

const FACES: readonly FaceName[] = ["front", "left", "right", "back"];

/** What sits on which face, where it is drilled, and whether there is room behind. */
export function Faces({ build, onTry }: ViewProps) {
  const store = usePlanStore();
  const draft = usePlanPart((state) => state.draft);
  const planId = usePlanPart((state) => state.plan.id);
  const [face, setFace] = useState<FaceName>("front");
  const [chosen, setChosen] = useState<string | null>(null);
  const stood = useRef<readonly FittingReport[] | null>(null);
  const { faces } = build;
  if (!faces) {
    return (
      <p className="plate px-4 py-3">A ready-made unit has its own faces: nothing is drilled.</p>
    );
  }
  const { items } = draft.build;
  const on = faces.fittings.filter((fitting) => fitting.face === face);
  const one = faces.fittings.find((fitting) => fitting.key === chosen);
  const hit = new Set(faces.faults.flatMap((fault) => fault.items));
  function keep(key: string, to: Parameters<typeof movedItem>[3], did: string) {
    onTry(null);
    const from = stood.current ?? faces?.fittings ?? [];
    stood.current = null;
    store.edit(
      (plan) => withBuild(plan, { items: movedItem(from, plan.build.items, key, to) }),
      did.slice(0, 120),
    );
  }
  const at = (key: string) =>
    (stood.current ?? faces.fittings).find((fitting) => fitting.key === key);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section className="plate min-w-0 px-3 py-3" aria-label="A face, to scale">
        <Choice<FaceName>
          label="Face"
          value={face}
          options={FACES.map((name) => ({
            value: name,
            text: `${name} (${faces.fittings.filter((f) => f.face === name).length})`,
          }))}
          onChange={setFace}
        />
        <FaceDrawing
          size={faces.sizes.find((size) => size.face === face)}
          fittings={on}
          hit={hit}
          chosen={chosen}
          moving={stood.current !== null}
          onChoose={setChosen}
          onMove={(key, across, up) => {
            stood.current ??= faces.fittings;
            const was = at(key);
            if (!was) return;
            const to = { x_mm: was.x_mm + across, y_mm: was.y_mm + up };
            onTry(withBuild(draft, { items: movedItem(stood.current, items, key, to) }));
          }}
          onDone={(key, across, up) => {
            const was = at(key);
            if (!was || Math.hypot(across, up) < 0.5) {
              stood.current = null;
              onTry(null);
              setChosen(key);
              return;
            }
            keep(key, { x_mm: was.x_mm + across, y_mm: was.y_mm + up }, `moved ${was.name}`);
          }}
        />
        <p className="text-sm text-ash">
          Seen from outside. Solid is the hole, broken its flange. Drag a fitting, or move it with
          the arrow keys.
        </p>
      </section>
      <aside className="plate flex flex-col gap-3 px-4 py-3" aria-label="What is on it">
        {faces.faults.length > 0 ? (
          <ul className="grid gap-1.5 text-sm" data-testid="face-faults">
            {faces.faults.map((fault) => (
              <li key={fault.text}>
                <span className="font-semibold text-danger">{fault.text}</span> {fault.remedy}
              </li>
            ))}
          </ul>
        ) : (
          <p data-testid="face-faults">
            {faces.fittings.length} fittings, each with room in front and behind.
          </p>
        )}
        {one && (
          <FittingFields
            one={one}
            hole={items.find((item) => item.item === one.key)?.hole_mm}
            onSet={(to, did) => {
              keep(one.key, to, did);
              if (to.face) setFace(to.face);
            }}
          />
        )}
        <ul className="grid gap-0.5" aria-label={`On the ${face}`}>
          {on.map((fitting) => (
            <li key={fitting.key}>
              <Button
                look="bare"
                className={`flex w-full gap-2 rounded text-left text-sm ${fitting.key === chosen ? "bg-hover" : ""}`}
                onClick={() => setChosen(fitting.key)}
              >
                <strong className="w-6 shrink-0 text-right">{fitting.circuit ?? "·"}</strong>
                <span className="min-w-0 flex-1">{fitting.name}</span>
                <span>{fitting.hole_mm} mm</span>
              </Button>
            </li>
          ))}
        </ul>
        <Choice
          label="Paper of the template"
          showLabel
          value={draft.build.paper}
          options={[
            { value: "a4", text: "A4" },
            { value: "letter", text: "Letter" },
          ]}
          onChange={(paper) => store.edit((plan) => withBuild(plan, { paper }), "paper")}
        />
        <div className="flex flex-wrap gap-2">
          <a className="key" href={`/api/plans/${planId}/print/template.pdf`}>
            Template, 1:1
          </a>
          <Button
            disabled={items.length === 0}
            onClick={() => store.edit((plan) => withBuild(plan, { items: [] }), "faces laid anew")}
          >
            Reset layout
          </Button>
        </div>
        <p className="text-sm text-ash">
          Print at 100 %, measure the bar on the sheet, and hold every part against its hole before
          you drill. The part’s own sheet comes first.
        </p>
      </aside>
    </div>
  );
}

interface FieldsProps {
  one: FittingReport;
  hole: number | null | undefined;
  onSet: (to: Parameters<typeof movedItem>[3], did: string) => void;
}

function FittingFields({ one, hole, onSet }: FieldsProps) {
  const number = one.circuit == null ? "" : `${one.circuit} · `;
  return (
    <div className="grid grid-cols-2 items-start gap-3 border-t border-line pt-2">
      <h2 className="col-span-2 text-lg">
        {number}
        {one.name}
      </h2>
      <NumberField
        label="Centre from the left"
        value={one.x_mm}
        limit="FaceItem.x_mm"
        onCommit={(x_mm) => onSet({ x_mm }, `moved ${one.name}`)}
      />
      <NumberField
        label="Centre from below"
        value={one.y_mm}
        limit="FaceItem.y_mm"
        onCommit={(y_mm) => onSet({ y_mm }, `moved ${one.name}`)}
      />
      <NumberField
        label="Hole, by its sheet"
        value={hole}
        limit="FaceItem.hole_mm"
        empty={`${one.hole_mm}, typical`}
        onCommit={(hole_mm) => onSet({ hole_mm }, `hole of ${one.name}`)}
        onClear={() => onSet({ hole_mm: null }, `hole of ${one.name}`)}
      />
      <Select
        label="Face"
        value={one.face}
        options={FACES.map((name) => ({ value: name, text: name }))}
        onChange={(face) => onSet({ face }, `${one.name} to the ${face}`)}
      />
      <p className="col-span-2 text-sm text-ash">
        Flange {one.flange_mm} mm, {one.depth_mm} mm deep behind the panel.
      </p>
    </div>
  );
}

interface DrawingProps {
  size: NonNullable<BuildReport["faces"]>["sizes"][number] | undefined;
  fittings: readonly FittingReport[];
  hit: ReadonlySet<string>;
  chosen: string | null;
  /** While something is dragged the drawing keeps its scale. */
  moving: boolean;
  onChoose: (key: string) => void;
  onMove: (key: string, across: number, up: number) => void;
  onDone: (key: string, across: number, up: number) => void;
}

const EDGE = 8;
/** Around what sits on a face so much of it is drawn, and at least so much from top to foot [mm]. */
const AROUND = 45;
const MIN_TALL = 150;

/** The stretch of a face, from its top, in which something sits. */
function stretchOf(fittings: readonly FittingReport[], tall: number): [number, number] {
  const tops = fittings.map((one) => tall - one.y_mm - one.flange_mm / 2 - AROUND);
  const feet = fittings.map((one) => tall - one.y_mm + one.flange_mm / 2 + AROUND);
  const top = Math.max(Math.min(...tops, tall), 0);
  const foot = Math.min(Math.max(...feet, top + MIN_TALL), tall);
  return fittings.length === 0 || foot - top > 0.8 * tall ? [0, tall] : [top, foot];
}

function FaceDrawing(props: DrawingProps) {
  const { size, fittings, hit, chosen, moving, onChoose, onMove, onDone } = props;
  const handlers = useMillimetres({ onMove, onDone });
  const [whole, setWhole] = useState(false);
  const kept = useRef<[number, number]>([0, 0]);
  if (!size) return null;
  const { width_mm: wide, height_mm: tall } = size;
  if (!moving) kept.current = whole ? [0, tall] : stretchOf(fittings, tall);
  const [top, foot] = kept.current;
  const cut = foot - top < tall;
  function key(event: KeyboardEvent, fitting: FittingReport) {
    const step = arrowStep(event.key, event.ctrlKey || event.metaKey);
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    onDone(fitting.key, step.across, step.up);
  }
  return (
    <>
      <svg
        className="mt-2 w-full"
        style={{ maxHeight: "28rem" }}
        viewBox={`${-EDGE} ${top - EDGE} ${wide + 2 * EDGE} ${foot - top + 2 * EDGE}`}
        role="group"
        aria-label={`The ${size.face}, ${Math.round(wide)} by ${Math.round(tall)} mm`}
      >
        <rect
          width={wide}
          height={tall}
          rx={10}
          fill="var(--color-paper)"
          stroke="var(--color-rim)"
          strokeWidth={5}
        />
        {fittings.map((fitting) => {
          const bad = hit.has(fitting.key);
          const ink = bad ? "var(--color-danger)" : "var(--color-rim)";
          const label = fitting.circuit == null ? fitting.name : `${fitting.circuit}`;
          return (
            <g
              key={fitting.key}
              role="button"
              tabIndex={0}
              aria-label={`${label}${bad ? " ▲" : ""}, ${fitting.name}, ${fitting.hole_mm} mm, at ${fitting.x_mm} and ${fitting.y_mm}`}
              className="grab"
              transform={`translate(${fitting.x_mm} ${tall - fitting.y_mm})`}
              {...handlers(fitting.key)}
              onFocus={() => onChoose(fitting.key)}
              onKeyDown={(event) => key(event, fitting)}
            >
              <circle
                r={fitting.flange_mm / 2}
                fill={bad ? "var(--color-danger-tint)" : "var(--color-plate)"}
                stroke={ink}
                strokeWidth={chosen === fitting.key ? 3 : 1.2}
                strokeDasharray="5 3"
              />
              <circle
                r={fitting.hole_mm / 2}
                fill="var(--color-hover)"
                stroke={ink}
                strokeWidth={2}
              />
              <path d="M-4 0h8M0-4v8" stroke={ink} strokeWidth={1} />
              <text
                y={fitting.hole_mm > 40 ? -6 : fitting.flange_mm / 2 + 11}
                fontSize={11}
                fontWeight={700}
                textAnchor="middle"
                fill="var(--color-ink)"
              >
                {label}
                {bad ? " ▲" : ""}
              </text>
            </g>
          );
        })}
      </svg>
      {(cut || whole) && (
        <p className="text-sm text-ash">
          {cut &&
            `Drawn from ${Math.round(top)} to ${Math.round(foot)} mm below the top of ${Math.round(tall)} mm. `}
          <Button look="link" onClick={() => setWhole(!whole)}>
            {whole ? "Draw what is on it" : "Draw the whole face"}
          </Button>
        </p>
      )}
    </>
  );
}
