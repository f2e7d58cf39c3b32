import type { Appliance, RunReport } from "../../api/client";
import { useUnit } from "../../plan/context";
import { Figure } from "../../plan/sums";
import { amountText, percentText } from "../../quantities/units";
import { PageHead } from "../../ui/PageHead";

interface Props {
  appliances: readonly Appliance[];
  use: RunReport["use"];
}

const COUNTS = ["None", "One", "Two", "All"];

/** How much a day, the three that take most of it, and how many of those are guesses. */
export function UseSentence({ appliances, use }: Props) {
  const unit = useUnit();
  const top = use.draws.toSorted((a, b) => b.a_day.wh - a.a_day.wh).slice(0, 3);
  const share = (100 * top.reduce((sum, draw) => sum + draw.a_day.wh, 0)) / (use.a_day.wh || 1);
  const guesses = top.filter(
    (draw) => appliances.find((a) => a.id === draw.key)?.figure === "guess",
  ).length;
  const rest = use.draws.length > 3;
  return (
    <PageHead
      answer={
        <>
          You use{" "}
          <Figure of="use">
            {amountText(use.a_day, unit)} {unit} a day
          </Figure>
          .
        </>
      }
      facts={
        top.length > 0 && (
          <>
            {rest ? `Three things take ${percentText(share)} of it: ` : "That is "}
            {top.map((draw, i) => (
              <span key={draw.key}>
                {i > 0 && (i === top.length - 1 ? " and " : ", ")}
                <strong className="text-ink">{draw.name}</strong>
              </span>
            ))}
            . {COUNTS[guesses === 3 ? 3 : guesses]} of those{" "}
            {guesses === 1 ? "is a guess" : "are guesses"}.
          </>
        )
      }
    />
  );
}
