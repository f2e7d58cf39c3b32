import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { LabelLines } from "../../labels/LabelLines";
import { LabelTextField } from "../../labels/LabelTextField";
import { type LabelOf, usePaused } from "../../labels/useLabel";
import type { Sentence } from "../../sentence/sentence";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { Choice } from "../../ui/fields/Choice";

interface Props {
  first: string;
  sentence: Sentence;
  onTake: (next: Sentence) => void;
  onClose: () => void;
}

const KINDS: readonly { value: LabelOf; text: string }[] = [
  { value: "battery", text: "a battery" },
  { value: "unit", text: "a ready-made unit" },
  { value: "panel", text: "a panel" },
  { value: "dcdc", text: "a DC-DC charger" },
  { value: "mains", text: "a mains charger" },
  { value: "appliance", text: "something that runs" },
];

/** A label into the sentence: what it is about, which figure goes where, what the sentence takes. */
export function LabelDialog({ first, sentence, onTake, onClose }: Props) {
  const [text, setText] = useState(first);
  const [kind, setKind] = useState<LabelOf | null>(null);
  const paused = usePaused(text);
  const read = useQuery({
    queryKey: ["label in sentence", paused, kind, sentence],
    enabled: paused.trim() !== "",
    queryFn: () =>
      answer(client.POST("/api/sentence/label", { body: { text: paused, kind, base: sentence } })),
  });
  const got = paused === text ? read.data : undefined;
  return (
    <Dialog
      title="Read a label"
      text="A battery, a panel, a charger, something that runs. Nothing is taken until you say so."
      open
      onOpenChange={(open) => !open && onClose()}
    >
      <div className="flex flex-col gap-3">
        <LabelTextField text={text} onText={setText} />
        {read.error && (
          <p role="alert" className="text-danger">
            {read.error.message}
          </p>
        )}
        {got && text.trim() !== "" && (
          <>
            <Choice
              label="It is about"
              showLabel
              value={got.reading.kind}
              options={KINDS}
              onChange={setKind}
            />
            {got.reading.kind === null ? (
              <p role="status">Nothing on it says what it is. Choose above.</p>
            ) : (
              <LabelLines reading={got.reading} />
            )}
            {got.sentence ? (
              <p className="flex flex-wrap items-center gap-2">
                <Button look="main" onClick={() => onTake(got.sentence as Sentence)}>
                  Take {got.taken}
                </Button>
                <span className="text-sm text-ash">
                  The sentence keeps this; the other figures go in on Box, once the trip is saved.
                </span>
              </p>
            ) : (
              got.reading.kind !== null && (
                <p>
                  {got.reading.notes.length > 0
                    ? "What does not agree is not taken. Correct it in the text above."
                    : "The sentence has no place for this. Its sheet on Box takes the label."}
                </p>
              )
            )}
          </>
        )}
      </div>
    </Dialog>
  );
}
