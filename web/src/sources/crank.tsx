import type { Schemas } from "../api/client";
import type { Spec } from "../ui/fields/Fields";
import type { SourceLook, SourcePart } from "./kind";

type Crank = Schemas["CrankModel"];

const FIRST: readonly Spec<Crank>[] = [
  { kind: "slider", key: "power_w", text: "Somebody turns", from: 5, to: 150, step: 5 },
  { kind: "number", key: "limit_a", text: "It gives at most" },
];
const MORE: readonly Spec<Crank>[] = [
  { kind: "number", key: "efficiency_percent", text: "Of that comes out" },
  {
    kind: "flag",
    key: "noisy",
    text: "Off in quiet hours",
    hint: "Quiet hours stand on the Use page.",
  },
];

export const look: SourceLook = {
  key: "crank",
  place: 5,
  text: "hand crank",
  colours: {
    day: { ink: "#7a5c3e", tint: "#e3d7c8" },
    night: { ink: "#8a3a20", tint: "#2c110a" },
  },
  pattern: {
    tile: 8,
    marks: <path d="M0 8L8 0" stroke="var(--color-grain)" strokeOpacity=".5" strokeWidth="1.4" />,
  },
  block: { kind: "crank", text: "cranking", minutes: 30, start: 1020 },
  fields: {
    title: "From a hand crank",
    model: "Crank",
    text: "It works in its own hours on the day board, for as long as somebody turns it.",
    first: FIRST as unknown as readonly Spec<SourcePart>[],
    more: MORE as unknown as readonly Spec<SourcePart>[],
  },
};
