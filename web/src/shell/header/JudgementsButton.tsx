import { Suspense } from "react";
import { gravest, Mark, useJudgements } from "../../plan/judgements";
import { Button } from "../../ui/Button";
import { part } from "../part";

const JudgementsDialog = part(() => import("../dialogs/JudgementsDialog"));

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** The count in the header, and behind it every judgement, the gravest first. */
export function JudgementsButton({ open, onOpenChange: setOpen }: Props) {
  const found = useJudgements();
  const mend = found.filter((one) => one.severity !== "note").length;
  const worst = gravest(found);
  const text =
    mend > 0
      ? `${mend} ${mend === 1 ? "problem" : "problems"}`
      : `${found.length} ${found.length === 1 ? "tip" : "tips"}`;
  return (
    <>
      <Button
        data-testid="judgement-count"
        aria-label={`${text}: checks on your setup`}
        disabled={found.length === 0}
        onClick={() => setOpen(true)}
      >
        {worst === "note" ? <NoteMark /> : worst && <Mark severity={worst} />}
        {mend > 0 ? mend : found.length}{" "}
        <span className="hidden lg:inline">
          {mend > 0 ? (mend === 1 ? "problem" : "problems") : found.length === 1 ? "tip" : "tips"}
        </span>
      </Button>
      {open && (
        <Suspense fallback={null}>
          <JudgementsDialog onOpenChange={setOpen} />
        </Suspense>
      )}
    </>
  );
}

/** Drawn, not written: a letter in a button's text would have to be in its name. */
function NoteMark() {
  return (
    <svg width="14" height="16" className="lg:hidden" aria-hidden="true">
      <circle cx="7" cy="3.4" r="1.9" fill="currentColor" />
      <path d="M4,7.4H8.4V14M4,14H11" stroke="currentColor" strokeWidth="2" fill="none" />
    </svg>
  );
}
