import { useSearchParams } from "react-router";
import type { Track } from "../../api/client";
import { useTrackAsked } from "../../plan/useLog";
import { Choice } from "../../ui/fields/Choice";

export interface Onward {
  /** Where the battery stands; null before the trip has begun, and after its end. */
  track: Track | null;
  /** Whether only the rest of the trip is asked about. */
  onward: boolean;
}

interface Asked extends Onward {
  /** Whether it is known already which of the two it is. */
  known: boolean;
}

/** Whether a question is about the rest of a trip that is under way, or about the whole plan. */
export function useOnward(): Asked {
  const { track: followed, answered } = useTrackAsked();
  const [query] = useSearchParams();
  const track = followed?.begun && followed.rest.days.length > 0 ? followed : null;
  return { track, onward: track !== null && query.get("from") !== "all", known: answered };
}

/** The choice between the two; nothing where there is none. */
export function OnwardChoice({ track, onward }: Onward) {
  const [, setQuery] = useSearchParams();
  if (!track) return null;
  return (
    <Choice
      label="Over which days"
      value={onward ? "now" : "all"}
      options={[
        { value: "now", text: "from now on" },
        { value: "all", text: "the whole plan" },
      ]}
      onChange={(from) =>
        setQuery(
          (old) => {
            old.set("from", from);
            return old;
          },
          { replace: true },
        )
      }
    />
  );
}
