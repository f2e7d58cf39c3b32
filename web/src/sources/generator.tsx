import type { Schemas } from "../api/client";
import type { Spec } from "../ui/fields/Fields";
import type { SourceLook, SourcePart } from "./kind";

type Generator = Schemas["GeneratorModel"];

const FIRST: readonly Spec<Generator>[] = [
  { kind: "slider", key: "rated_w", text: "It gives, for hours", from: 300, to: 3000, step: 50 },
  {
    kind: "choice",
    key: "stands",
    text: "It stands",
    options: [
      { value: "open", text: "in the open" },
      { value: "near", text: "near a door", title: "or a window, a vent, a tent" },
      { value: "inside", text: "inside" },
    ],
  },
];
const MORE: readonly Spec<Generator>[] = [
  { kind: "number", key: "full_l_h", text: "Burns, at full load" },
  { kind: "number", key: "idle_l_h", text: "Burns, idling" },
  { kind: "number", key: "tank_l", text: "Tank" },
  { kind: "number", key: "noise_db", text: "Noise" },
  {
    kind: "flag",
    key: "quiet_rule",
    text: "Off in quiet hours",
    hint: "Quiet hours stand on the Use page and on the day board.",
  },
];

export const look: SourceLook = {
  key: "generator",
  place: 4,
  text: "generator",
  colours: {
    day: { ink: "#5d6b7a", tint: "#d5dbe1" },
    night: { ink: "#7d3526", tint: "#2a0f0a" },
  },
  pattern: {
    tile: 7,
    marks: (
      <path
        d="M0 2h7M0 5.5h7"
        stroke="var(--color-grain)"
        strokeOpacity=".5"
        strokeWidth="1.2"
        strokeDasharray="3 1.5"
      />
    ),
  },
  block: { kind: "generator", text: "generator", minutes: 120, start: 960 },
  fields: {
    title: "From a fuel generator",
    model: "Generator",
    text: "It works in its own hours on the day board, through a mains charger of this box, and only while there is no mains.",
    first: FIRST as unknown as readonly Spec<SourcePart>[],
    more: MORE as unknown as readonly Spec<SourcePart>[],
  },
};
