/** How old a battery may be said to be; what each leaves of the label is told by the answer. */
export const BATTERY_AGES = [
  { value: "new", text: "new", title: "its first year" },
  { value: "years", text: "some years", title: "used for two to five years" },
  { value: "old", text: "old", title: "near the end of its life" },
] as const;
