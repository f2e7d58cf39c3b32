import type { Schemas } from "../../api/client";
import { OpenReading } from "../../plan/OpenReading";
import { Button } from "../../ui/Button";

/** What became of the last entry, and how it is taken back. */
export interface Told {
  text: string;
  bad: boolean;
  /** The entry that was written. */
  entry?: number;
  /** Takes it back; absent where the server is away or nothing was written. */
  takeBack?: () => void;
}

interface Props {
  planId: number;
  day: Schemas["TodayReport"];
  told: Told | null;
  /** Asks for the day anew; absent while the server is away. */
  onChanged?: (() => void) | undefined;
  onAgain: () => void;
}

/** What was saved and what it did to the level; and the question where it does not fit. */
export function WhatBecame({ planId, day, told, onChanged, onAgain }: Props) {
  return (
    <>
      {told && (
        <p role={told.bad ? "alert" : "status"} className={told.bad ? "text-danger" : ""}>
          {told.text}{" "}
          {told.entry !== undefined && day.became?.entry === told.entry && !day.question && (
            <strong
              className={`block ${day.became.state === "aside" ? "text-danger" : "font-normal"}`}
            >
              {day.became.text}{" "}
            </strong>
          )}
          {told.takeBack && (
            <Button look="link" onClick={told.takeBack}>
              Take it back
            </Button>
          )}
        </p>
      )}
      {day.question && onChanged && (
        <OpenReading
          planId={planId}
          question={day.question}
          onAnswered={onChanged}
          onAgain={onAgain}
        />
      )}
    </>
  );
}
