/** The pages, in the order in which people work. */
export const PAGES = [
  { path: "use", text: "Use" },
  { path: "box", text: "Box" },
  { path: "trip", text: "Trip" },
  { path: "improve", text: "Improve" },
  { path: "log", text: "Log" },
  { path: "build", text: "Build" },
] as const;

/** The page of the field, first of all while a trip is under way. */
export const TODAY = { path: "today", text: "Today" } as const;
