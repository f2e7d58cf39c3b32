import { JudgementCard, useJudgements } from "../../plan/judgements";
import { Dialog } from "../../ui/Dialog";

/** Every judgement, the gravest first. */
export default function JudgementsDialog({
  onOpenChange,
}: {
  onOpenChange: (open: boolean) => void;
}) {
  const found = useJudgements();
  return (
    <Dialog
      title="Checks on your setup"
      text="Most serious first. A button makes the change; undo takes it back."
      open
      onOpenChange={onOpenChange}
    >
      <div className="flex flex-col gap-4">
        {found.map((judgement, i) => (
          <JudgementCard
            key={`${judgement.code}-${judgement.part}-${i}`}
            judgement={judgement}
            linked
            onFollow={() => onOpenChange(false)}
          />
        ))}
        {found.length === 0 && (
          <p>No problems found. Local codes and licensed practice still come first.</p>
        )}
      </div>
    </Dialog>
  );
}
