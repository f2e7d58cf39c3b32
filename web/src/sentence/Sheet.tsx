import type { Schemas } from "../api/client";
import { BankSheet } from "./BankSheet";
import { ChargerSheet } from "./ChargerSheet";
import type { Choices, PartKey, Sentence } from "./sentence";
import { ThingSheet } from "./ThingSheet";
import { LengthSheet, PlaceSheet, ShapeSheet, WhenSheet } from "./TripSheets";

export interface SheetProps {
  sentence: Sentence;
  choices: Choices;
  onChange: (next: Sentence) => void;
  /** What each thing takes a day in the answer that stands, by its key there. */
  uses?: ReadonlyMap<string, Schemas["Amount"]>;
  /** The sentence of a plan: it asks no other question than that plan's. */
  ofPlan?: boolean;
}

const SHEETS: Record<PartKey, (props: SheetProps) => React.ReactNode> = {
  bank: BankSheet,
  chargers: ChargerSheet,
  length: LengthSheet,
  place: PlaceSheet,
  when: WhenSheet,
  things: ThingSheet,
  shape: ShapeSheet,
};

/** The small sheet of one part. */
export function Sheet({ part, ...props }: SheetProps & { part: PartKey }) {
  const Found = SHEETS[part];
  return (
    <div className="w-[min(86vw,22rem)] font-body text-base font-normal">
      <Found {...props} />
    </div>
  );
}
