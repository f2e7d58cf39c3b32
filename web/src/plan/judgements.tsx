import { Link } from "react-router";
import type { JudgementReport, Plan, Remedy, Severity } from "../api/client";
import { Button } from "../ui/Button";
import { usePlanPart, usePlanStore } from "./context";

/** Each severity has a mark of its own beside its colour and its word. */
export const SEVERITY: Record<Severity, { mark: string; word: string; ink: string }> = {
  danger: { mark: "▲", word: "danger", ink: "text-danger" },
  fault: { mark: "◆", word: "fault", ink: "text-danger" },
  waste: { mark: "≈", word: "waste", ink: "text-sun-ink" },
  note: { mark: "i", word: "note", ink: "text-rim-soft" },
};

const NONE: readonly JudgementReport[] = [];

export function useJudgements(): readonly JudgementReport[] {
  return usePlanPart((state) => state.run.judgements) ?? NONE;
}

/** Judgements about one part; `also` names parts that are shown on the same sheet. */
export function useJudgementsOf(part: string): JudgementReport[] {
  return useJudgements().filter((judgement) => judgement.part === part);
}

/** The document with a remedy's edits made. */
export function withRemedy(plan: Plan, { edits }: Remedy): Plan {
  const next = structuredClone(plan) as unknown as Record<string | number, unknown>;
  for (const { path, value } of edits) {
    let at = next;
    for (const step of path.slice(0, -1)) at = at[step] as Record<string | number, unknown>;
    const last = path[path.length - 1];
    if (last !== undefined) at[last] = value;
  }
  return next as unknown as Plan;
}

/** Where a part is described. */
export function pageOf(part: string): string {
  if (part === "use") return "use";
  if (part === "trip") return "trip";
  const [group, id] = part.split(":");
  if (group === "circuit") return `build?circuit=${id}`;
  if (group === "enclosure") return "build?view=fit";
  return group === "appliance" ? `use?open=${id}` : `box?part=${part}`;
}

export function Mark({ severity }: { severity: Severity }) {
  const { mark, word, ink } = SEVERITY[severity];
  return (
    <span className={`judged ${ink}`} role="img" aria-label={word} data-severity={severity}>
      {mark}
    </span>
  );
}

interface CardProps {
  judgement: JudgementReport;
  /** Shows the way to the part; for lists that stand apart from it. */
  linked?: boolean;
  onFollow?: () => void;
}

/** One judgement: what is so, why it matters, what mends it, and a button where it is one edit. */
export function JudgementCard({ judgement, linked, onFollow }: CardProps) {
  const store = usePlanStore();
  const planId = usePlanPart((state) => state.plan.id);
  const { fix } = judgement;
  return (
    <div className="grid grid-cols-[1.7rem_1fr] gap-x-2" data-testid={`judged-${judgement.code}`}>
      <Mark severity={judgement.severity} />
      <div>
        <p className="leading-snug font-semibold">{judgement.text}</p>
        <p className="text-sm leading-snug">
          {judgement.means} {judgement.remedy}
        </p>
        <p className="text-xs text-ash">{judgement.source}</p>
        <div className="mt-1 flex flex-wrap items-center gap-3">
          {fix && (
            <Button
              onClick={() => store.edit((plan) => withRemedy(plan, fix), fix.text.toLowerCase())}
            >
              {fix.text}
            </Button>
          )}
          {linked && (
            <Link
              className="text-sm underline"
              to={`/plan/${planId}/${pageOf(judgement.part)}`}
              onClick={onFollow}
            >
              show the part
            </Link>
          )}
        </div>
      </div>
    </div>
  );
}

/** What is to be said of one part, beside it: what is to be mended, or what is worth knowing. */
export function JudgementsOf({ part, notes }: { part: string; notes: boolean }) {
  const found = useJudgementsOf(part).filter((one) => (one.severity === "note") === notes);
  if (found.length === 0) return null;
  return (
    <div
      className={`flex flex-col gap-3 ${notes ? "border-t border-line pt-3" : "rounded-lg bg-sun-tint p-2"}`}
      data-testid="judged"
    >
      {found.map((judgement, i) => (
        <JudgementCard key={`${judgement.code}-${i}`} judgement={judgement} />
      ))}
    </div>
  );
}

/** The gravest mark among some judgements. */
export function gravest(found: readonly JudgementReport[]): Severity | null {
  const order: Severity[] = ["danger", "fault", "waste", "note"];
  return order.find((severity) => found.some((one) => one.severity === severity)) ?? null;
}
