import { useState } from "react";
import { Button } from "../ui/Button";
import { LabelExamples } from "./LabelExamples";
import { LabelLines } from "./LabelLines";
import { LabelTextField } from "./LabelTextField";
import { type LabelOf, type LabelParts, type LabelReading, useLabel, usePaused } from "./useLabel";

interface Props {
  of: LabelOf;
  /** The part of this sheet, by its kind. */
  parts: LabelParts;
  onTake: (parts: LabelReading["parts"]) => void;
}

/** A label pasted into a sheet: which figure goes where, then all of it in one press. */
export function LabelReader(props: Props) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="rounded-lg border border-line px-2 py-1"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer py-1 text-sm font-semibold">
        Read its label: which number goes where?
      </summary>
      {open && <Reader {...props} />}
    </details>
  );
}

function Reader({ of, parts, onTake }: Props) {
  const [text, setText] = useState("");
  const [taken, setTaken] = useState(false);
  const paused = usePaused(text);
  const { data: reading, error, isPlaceholderData: behind } = useLabel(paused, of, parts);
  const some = reading?.lines.some((line) => line.field) ?? false;
  return (
    <div className="flex flex-col gap-3 py-2">
      <LabelTextField
        text={text}
        onText={(next) => {
          setText(next);
          setTaken(false);
        }}
      />
      {error && (
        <p role="alert" className="text-danger">
          {error.message}
        </p>
      )}
      {text.trim() !== "" && reading && <LabelLines reading={reading} />}
      {text.trim() !== "" && reading && some && (
        <p className="flex flex-wrap items-center gap-2">
          <Button
            look="main"
            disabled={behind || paused !== text || taken}
            onClick={() => {
              onTake(reading.parts);
              setTaken(true);
            }}
          >
            Take it over
          </Button>
          <span role="status" className="text-sm text-ash">
            {taken && "It stands in the fields of this sheet."}
          </span>
        </p>
      )}
      {text.trim() === "" && (of === "panel" || of === "battery") && <LabelExamples of={of} />}
    </div>
  );
}
