import type { SourceLook } from "./kind";

export const look: SourceLook = {
  key: "vehicle",
  place: 2,
  text: "vehicle",
  pattern: {
    tile: 7,
    turned: 45,
    marks: <rect width="2" height="7" fill="var(--color-grain)" fillOpacity=".28" />,
  },
  always: true,
  block: { kind: "drive", text: "drive", minutes: 60, start: 600 },
};
