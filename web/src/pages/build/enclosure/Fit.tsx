import { type KeyboardEvent, useRef, useState } from "react";
import type { BodyReport, BuildReport, PlacedPart } from "../../../api/client";
import { usePlanPart, usePlanStore } from "../../../plan/context";
import { weightText } from "../../../quantities/habits";
import { useHabits } from "../../../quantities/useHabits";
import { Cautions } from "../../../shell/header/Caution";
import { Button } from "../../../ui/Button";
import type { ViewProps } from "../BuildPage";
import { withBuild } from "../wiring/circuits";
import { BoxFields } from "./BoxFields";
import { arrowStep, moved, turnedAbout } from "./placing";
import { useMillimetres } from "./useMillimetres";

type Axis = "y" | "z";

/** Does it all go in: plan and side view, parts to be moved by dragging. */
export function Fit({ build, onTry }: ViewProps) {
  const store = usePlanStore();
  const habits = useHabits();
  const placed = usePlanPart((state) => state.draft.build.placed);
  const [chosen, setChosen] = useState<string | null>(null);
  const { fit, enclosure } = build;
  // A drag is reckoned from where everything stood when it began.
  const stood = useRef<readonly BodyReport[] | null>(null);
  if (!fit) {
    return (
      <p className="plate px-4 py-3">A ready-made unit has its own inside: nothing is built.</p>
    );
  }
  const bodies = fit.bodies;
  const keep = (next: PlacedPart[], did: string) => {
    onTry(null);
    store.edit((plan) => withBuild(plan, { placed: next }), did);
  };
  const hit = new Set(fit.clashes.flatMap((clash) => clash.bodies));
  const name = (key: string) => bodies.find((body) => body.key === key)?.name ?? key;
  const view = (axis: Axis) => (
    <View
      axis={axis}
      enclosure={enclosure}
      bodies={bodies}
      hit={hit}
      centre={fit.centre_mm}
      chosen={chosen}
      onChoose={setChosen}
      onMove={(key, across, up) => {
        stood.current ??= bodies;
        const by = axis === "y" ? { x: across, y: up } : { x: across, z: up };
        const { draft } = store.snapshot();
        onTry(withBuild(draft, { placed: moved(stood.current, key, by) }));
      }}
      onDone={(key, across, up) => {
        const from = stood.current ?? bodies;
        stood.current = null;
        if (Math.hypot(across, up) < 1) {
          onTry(null);
          setChosen(key);
          return;
        }
        const by = axis === "y" ? { x: across, y: up } : { x: across, z: up };
        keep(moved(from, key, by), `moved ${name(key)}`.slice(0, 120));
      }}
      onTurn={(key) => keep(turnedAbout(bodies, key), `turned ${name(key)}`.slice(0, 120))}
    />
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section className="plate grid min-w-0 gap-3 px-3 py-3" aria-label="The box, to scale">
        <div className="grid items-start gap-3 sm:grid-cols-2">
          {view("y")}
          {view("z")}
        </div>
        <p className="text-sm text-ash">
          Drag a part; arrow keys move it by 5 mm, with Ctrl by 1; T turns it. The broken line is
          the room it wants for air and cables. ✛ is the centre of mass.
        </p>
      </section>
      <aside className="plate flex flex-col gap-3 px-4 py-3" aria-label="How it fits">
        <div>
          <h2 className="text-lg">{fit.clashes.length ? "Not yet" : "It fits"}</h2>
          <p data-testid="fit-verdict">{fit.verdict}</p>
          <p className="mt-1 font-semibold">{fit.lift}</p>
        </div>
        {fit.clashes.length > 0 && (
          <ul className="grid gap-1.5 text-sm" data-testid="clashes">
            {fit.clashes.map((clash) => (
              <li key={clash.text}>
                <span className="font-semibold text-danger">{clash.text}</span> {clash.remedy}
              </li>
            ))}
          </ul>
        )}
        <BoxFields enclosure={enclosure} />
        <div className="flex flex-wrap gap-2">
          <Button disabled={placed.length === 0} onClick={() => keep([], "everything placed anew")}>
            Place everything anew
          </Button>
          {chosen && bodies.some((body) => body.key === chosen) && (
            <Button
              onClick={() =>
                keep(turnedAbout(bodies, chosen), `turned ${name(chosen)}`.slice(0, 120))
              }
            >
              Turn {shortName(name(chosen), 18)}
            </Button>
          )}
        </div>
        <ol className="grid gap-0.5 text-sm">
          {bodies.map((body, n) => (
            <li key={body.key} className="flex gap-2">
              <strong className="w-5 shrink-0 text-right">{n + 1}</strong>
              <span className="min-w-0 flex-1">{body.name}</span>
              <span>{weightText(body.kg, habits)}</span>
            </li>
          ))}
        </ol>
        <Cautions about={fit.kg > 20 ? ["battery", "heavy"] : ["battery"]} />
      </aside>
    </div>
  );
}

interface ViewPropsOf {
  axis: Axis;
  enclosure: BuildReport["enclosure"];
  bodies: readonly BodyReport[];
  hit: ReadonlySet<string>;
  centre: readonly number[];
  chosen: string | null;
  onChoose: (key: string) => void;
  onMove: (key: string, across: number, up: number) => void;
  onDone: (key: string, across: number, up: number) => void;
  onTurn: (key: string) => void;
}

const EDGE = 14;
/** A shelf is drawn so much wider than what stands on it [mm]. */
const SHELF = 25;

/** The box from above, or from the front. */
function View(props: ViewPropsOf) {
  const { axis, enclosure, bodies, hit, centre, chosen, onDone, onTurn, onChoose } = props;
  const tall = axis === "y" ? enclosure.width_mm : enclosure.height_mm;
  const wide = enclosure.length_mm;
  const handlers = useMillimetres({ onMove: props.onMove, onDone });
  const far = Math.max(...bodies.map((body) => body.x1), wide);
  const high = Math.max(...bodies.map((body) => end(body, axis)), tall);
  // What stands higher, or nearer to the front, is drawn over the rest.
  const drawn = bodies
    .map((body, n) => ({ body, n }))
    .toSorted((a, b) => (axis === "y" ? a.body.z0 - b.body.z0 : b.body.y0 - a.body.y0));
  const flip = (value: number) => high - value;
  function key(event: KeyboardEvent, body: BodyReport) {
    if (event.key === "t" || event.key === "T") {
      onTurn(body.key);
      return;
    }
    const step = arrowStep(event.key, event.ctrlKey || event.metaKey);
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    onDone(body.key, step.across, step.up);
  }
  return (
    <div>
      <h3 className="text-sm">
        {axis === "y" ? "From above" : "From the front"}: {Math.round(wide)} × {Math.round(tall)} mm
        inside
      </h3>
      <svg
        className="w-full"
        viewBox={`${-EDGE} ${-EDGE} ${far + 2 * EDGE} ${high + 2 * EDGE}`}
        style={{ maxHeight: "24rem" }}
        role="group"
        aria-label={axis === "y" ? "The box from above" : "The box from the front"}
      >
        <rect
          x={-enclosure.wall_mm / 2}
          y={flip(tall) - enclosure.wall_mm / 2}
          width={wide + enclosure.wall_mm}
          height={tall + enclosure.wall_mm}
          rx={6}
          fill="var(--color-paper)"
          stroke="var(--color-rim)"
          strokeWidth={enclosure.wall_mm}
        />
        {bodies
          .filter((body) => axis === "z" && shelved(body))
          .map((body) => (
            <line
              key={body.key}
              x1={Math.max(body.x0 - SHELF, 0)}
              x2={Math.min(body.x1 + SHELF, wide)}
              y1={flip(body.z0) + 3}
              y2={flip(body.z0) + 3}
              stroke="var(--color-ash)"
              strokeWidth={6}
            />
          ))}
        {drawn.map(({ body, n }) => {
          const { x0, x1 } = body;
          const [u0, u1] = axis === "y" ? [body.y0, body.y1] : [body.z0, body.z1];
          const room = body.clear_mm;
          const above = axis === "z" ? body.above_mm : room;
          const below = axis === "z" ? 0 : room;
          const bad = hit.has(body.key);
          const up = axis === "y" && shelved(body);
          const mark = `${n + 1}${bad ? " ▲" : ""}${up ? " shelf" : ""}`;
          return (
            <g
              key={body.key}
              role="button"
              tabIndex={0}
              aria-label={`${mark} ${body.name}, ${Math.round(x0)} mm from the left`}
              className="grab"
              {...handlers(body.key)}
              onFocus={() => onChoose(body.key)}
              onKeyDown={(event) => key(event, body)}
            >
              <rect
                x={x0 - room}
                y={flip(u1 + above)}
                width={x1 - x0 + 2 * room}
                height={u1 - u0 + above + below}
                fill="none"
                stroke={bad ? "var(--color-danger)" : "var(--color-ash)"}
                strokeWidth={1}
                strokeDasharray="5 4"
                opacity={bad || chosen === body.key ? 1 : 0.45}
              />
              {up && (
                <rect
                  x={x0 + 5}
                  y={flip(u1) + 5}
                  width={x1 - x0}
                  height={u1 - u0}
                  rx={4}
                  fill="var(--color-ink)"
                  fillOpacity={0.28}
                />
              )}
              <rect
                x={x0}
                y={flip(u1)}
                width={x1 - x0}
                height={u1 - u0}
                rx={4}
                fill={bad ? "var(--color-danger-tint)" : `var(--color-${tint(body)})`}
                stroke={bad ? "var(--color-danger)" : "var(--color-rim)"}
                strokeWidth={chosen === body.key ? 4 : 2}
              />
              <text
                x={x0 + 8}
                y={flip(u1) + 22}
                fontSize={19}
                fontWeight={700}
                fill="var(--color-ink)"
              >
                {n + 1}
                {bad ? " ▲" : ""}
                {up && (
                  <tspan fontSize={13} fontWeight={400}>
                    {" "}
                    shelf
                  </tspan>
                )}
              </text>{" "}
              {x1 - x0 > 90 && u1 - u0 > 44 && (
                <text x={x0 + 8} y={flip(u1) + 40} fontSize={14} fill="var(--color-ink)">
                  {shortName(body.name, Math.floor((x1 - x0) / 8))}
                </text>
              )}
            </g>
          );
        })}
        <text
          x={centre[0]}
          y={flip((axis === "y" ? centre[1] : centre[2]) ?? 0) + 8}
          fontSize={26}
          textAnchor="middle"
          fill="var(--color-ink)"
          pointerEvents="none"
        >
          ✛
        </text>
      </svg>
    </div>
  );
}

/** As many whole words of a name as there is room for, up to its first comma. */
function shortName(name: string, letters: number): string {
  const [first = name] = name.split(",");
  if (first.length <= letters) return first;
  return first.slice(0, Math.max(first.lastIndexOf(" ", letters), 0));
}

/** Whether it stands on the shelf, over what is on the floor. */
function shelved(body: BodyReport): boolean {
  return body.z0 > 1;
}

function end(body: BodyReport, axis: Axis): number {
  return axis === "y" ? body.y1 : body.z1;
}

/** Batteries moss, what gets hot rust, the rest plain. */
function tint(body: BodyReport): string {
  if (body.low) return "level-tint";
  return body.hot ? "vehicle-tint" : "plate";
}
