/** The pages, in the order in which people work. */
export const PAGES = [
  { path: "use", says: "Use" },
  { path: "box", says: "Box" },
  { path: "trip", says: "Trip" },
  { path: "improve", says: "Improve" },
  { path: "log", says: "Log" },
  { path: "build", says: "Build" },
] as const;
