import { ageWords } from "./keptDays";

/** The server is out of reach: this is what was known, and how old it is. */
export function AwayBanner({ keptAt }: { keptAt: string }) {
  return (
    <p role="status" className="plate mt-2 border-danger px-4 py-2 print:hidden" data-testid="away">
      <strong>Odd Kettle is out of reach.</strong> This is the day as it was known{" "}
      {ageWords(keptAt)}. What you note is kept on this device and sent when it answers again.
    </p>
  );
}
