import { Dialog } from "../ui/Dialog";
import { gravest, JudgementCard, Mark, useJudgements } from "./judgements";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** The count in the header, and behind it every judgement, the gravest first. */
export function JudgementsButton({ open, onOpenChange: setOpen }: Props) {
  const found = useJudgements();
  const mend = found.filter((one) => one.severity !== "note").length;
  const worst = gravest(found);
  const says = mend > 0 ? `${mend} to mend` : `${found.length} to know`;
  return (
    <>
      <button
        type="button"
        className="key"
        data-testid="judgement-count"
        aria-label={`${says}: what an experienced builder would say`}
        disabled={found.length === 0}
        onClick={() => setOpen(true)}
      >
        {worst === "note" ? <NoteMark /> : worst && <Mark severity={worst} />}
        {mend > 0 ? mend : found.length}{" "}
        <span className="hidden lg:inline">{mend > 0 ? "to mend" : "to know"}</span>
      </button>
      <Dialog
        title="What an experienced builder would say"
        says="The gravest first. A button makes the change; undo takes it back."
        open={open}
        onOpenChange={setOpen}
      >
        <div className="flex flex-col gap-4">
          {found.map((judgement, i) => (
            <JudgementCard
              key={`${judgement.code}-${judgement.part}-${i}`}
              judgement={judgement}
              linked
              onFollow={() => setOpen(false)}
            />
          ))}
          {found.length === 0 && <p>Nothing to say: this box is sound.</p>}
        </div>
      </Dialog>
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
