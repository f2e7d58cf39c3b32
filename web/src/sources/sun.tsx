import type { SourceLook } from "./kind";

export const look: SourceLook = {
  key: "sun",
  place: 1,
  text: "sun",
  pattern: {
    tile: 7,
    marks: (
      <>
        <circle cx="2" cy="2" r="1" fill="var(--color-grain)" fillOpacity=".55" />
        <circle cx="5.5" cy="5.5" r="1" fill="var(--color-grain)" fillOpacity=".55" />
      </>
    ),
  },
};
