/** The pages: the answer first, then what is changed, then what happens and what is built. */
export const PAGES = [
  { path: "trip", text: "Trip" },
  { path: "use", text: "Use" },
  { path: "box", text: "Box" },
  { path: "improve", text: "Improve" },
  { path: "log", text: "Log" },
  { path: "build", text: "Build" },
] as const;

/** The page of the field, first of all while a trip is under way. */
export const TODAY = { path: "today", text: "Today" } as const;

/** So many pages stand at the bottom of a phone; the others are behind one press. */
export const PAGES_BELOW = 4;
