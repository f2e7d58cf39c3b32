import type { SourceLook } from "./kind";

export const look: SourceLook = {
  key: "mains",
  place: 3,
  text: "mains",
  pattern: {
    tile: 6,
    marks: <rect width="1.6" height="6" fill="var(--color-grain)" fillOpacity=".3" />,
  },
  always: true,
  block: { kind: "hookup", text: "hook-up", minutes: 600, start: 1080 },
};
