import type { Box, Converter, Inverter } from "../../../api/client";
import { LabelReader } from "../../../labels/LabelReader";
import { usePlanState, usePlanStore } from "../../../plan/context";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/fields/Choice";
import { Fields, type Spec } from "../../../ui/fields/Fields";
import { NumberField } from "../../../ui/fields/NumberField";
import { Switch } from "../../../ui/fields/Switch";
import { sourcesInOrder, withBox } from "../parts";

const INVERTER: readonly Spec<Inverter>[] = [
  { kind: "number", key: "rating_w", text: "Rating" },
  { kind: "number", key: "surge_w", text: "Surge", empty: "unknown" },
  { kind: "number", key: "idle_w", text: "Draws by itself" },
  { kind: "number", key: "efficiency_percent", text: "Best efficiency" },
  {
    kind: "choice",
    key: "switched",
    text: "Switched on",
    options: [
      { value: "with_loads", text: "with its appliances" },
      { value: "always", text: "day and night" },
    ],
  },
  {
    kind: "number",
    key: "socket_fuse_a",
    text: "Plugged into a 12 V socket fused for",
    empty: "wired to the bar",
  },
];

/** The plan's box, and how to change a part of it. */
export function usePart() {
  const store = usePlanStore();
  const { draft, run } = usePlanState();
  const set = (part: Partial<Box>, did: string) => store.edit((old) => withBox(old, part), did);
  return { store, draft, run, box: draft.box, set };
}

/** A quiet button beneath a sheet's fields. */
export function Remove({ onClick, text }: { onClick: () => void; text: string }) {
  return (
    <Button className="self-start" onClick={onClick}>
      {text}
    </Button>
  );
}

/** The inverter and what it costs to leave it on. */
export function InverterSheet() {
  const { draft, box, set } = usePart();
  const { inverter } = box;
  if (!inverter) return null;
  const hangs = draft.use.appliances.filter((a) => a.supply === "inverter");
  const most = hangs.reduce((sum, a) => sum + Math.max(a.power_w, a.surge_w), 0);
  const able = inverter.surge_w ?? inverter.rating_w;
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">Inverter</h2>
      <Fields
        model="Inverter"
        part={inverter}
        specs={INVERTER}
        onChange={(next) => set({ inverter: next }, "changed the inverter")}
      />
      <LabelReader
        of="inverter"
        parts={{ inverter }}
        onTake={(read) => read.inverter && set({ inverter: read.inverter }, "took over a label")}
      />
      <p className="text-sm text-ash">
        {hangs.length > 0
          ? `On it: ${hangs.map((a) => a.name).join(", ")}.`
          : "Nothing hangs on it."}
      </p>
      {most > able && (
        <p className="text-sm text-danger">
          ▲ All of it starting at once asks {most.toFixed(0)} W; it can give {able.toFixed(0)} W.
        </p>
      )}
      <Remove text="Remove it" onClick={() => set({ inverter: null }, "removed the inverter")} />
    </div>
  );
}

const CONVERTER: readonly Spec<Converter>[] = [
  { kind: "number", key: "limit_a", text: "Gives at 12 V" },
  { kind: "number", key: "efficiency_percent", text: "Efficiency" },
  { kind: "number", key: "idle_w", text: "Draws by itself" },
];

/** What steps a 24 V box down for things that are made for 12 V. */
export function ConverterSheet() {
  const { draft, box, set } = usePart();
  const { converter } = box;
  if (!converter) return null;
  const hangs = draft.use.appliances.filter((a) => a.supply === "12v" && !a.takes_24v);
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">12 V converter</h2>
      <Fields
        model="Converter"
        part={converter}
        specs={CONVERTER}
        onChange={(next) => set({ converter: next }, "changed the converter")}
      />
      <p className="text-sm text-ash">
        {hangs.length > 0
          ? `On it: ${hangs.map((a) => a.name).join(", ")}. What bears 24 V too, by its label, is marked so on its own sheet.`
          : "Nothing hangs on it."}
      </p>
      <Remove text="Remove it" onClick={() => set({ converter: null }, "removed the converter")} />
    </div>
  );
}

/** How the sources share the battery. */
export function JoiningSheet() {
  const { box, set } = usePart();
  const { joining } = box;
  const sources = sourcesInOrder(box);
  const change = (part: Partial<Box["joining"]>) =>
    set({ joining: { ...joining, ...part } }, "changed how sources are joined");
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-lg">How sources are joined</h2>
      <Choice
        label="They come in by"
        showLabel
        value={joining.kind}
        options={[
          { value: "independent", text: "a charger each" },
          { value: "combined", text: "one combined charger" },
          { value: "selector", text: "a selector switch" },
        ]}
        onChange={(kind) =>
          change({
            kind,
            members:
              kind === "combined" && joining.members.length === 0
                ? sources.slice(0, 2).map((source) => source.id)
                : joining.members,
          })
        }
      />
      {joining.kind === "combined" && (
        <>
          <NumberField
            label="Its one output limit"
            value={joining.limit_a}
            limit="Joining.limit_a"
            onCommit={(limit_a) => change({ limit_a })}
          />
          {sources.map((source) => (
            <Switch
              key={source.id}
              label={`${source.name} is one of its inputs`}
              checked={joining.members.includes(source.id)}
              onChange={(on) =>
                change({
                  members: on
                    ? [...joining.members, source.id]
                    : joining.members.filter((id) => id !== source.id),
                })
              }
            />
          ))}
        </>
      )}
      {joining.kind === "selector" && (
        <Choice
          label="It lets in"
          showLabel
          value={joining.rule}
          options={[
            { value: "strongest", text: "whoever offers most" },
            { value: "in_order", text: "the first that has any" },
          ]}
          onChange={(rule) => change({ rule })}
        />
      )}
      <p className="text-sm text-ash">{JOINING_WORDS[joining.kind]}</p>
      <ol className="list-decimal pl-5" aria-label="Order in which sources are let in">
        {sources.map((source) => (
          <li key={source.id}>{source.name}</li>
        ))}
      </ol>
      <p className="text-sm text-ash">Each source’s own sheet moves it earlier or later.</p>
    </div>
  );
}

const JOINING_WORDS = {
  independent: "Each gives what it can; where they compete, the order decides.",
  combined:
    "One device, one wiring job; but sun and alternator together never give more than its limit.",
  selector: "Nothing can feed anything back; but somebody must turn it, and one source waits.",
} as const;
