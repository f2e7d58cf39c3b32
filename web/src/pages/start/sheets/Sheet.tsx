import type { Choices, PartKey, Sentence } from "../sentence";
import { BankSheet } from "./BankSheet";
import { ChargerSheet } from "./ChargerSheet";
import { ThingSheet } from "./ThingSheet";
import { LengthSheet, PlaceSheet, ShapeSheet, WhenSheet } from "./TripSheets";

export interface SheetProps {
  sentence: Sentence;
  choices: Choices;
  onChange: (next: Sentence) => void;
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
