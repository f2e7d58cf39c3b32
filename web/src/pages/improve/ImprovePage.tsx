import { useSearchParams } from "react-router";
import { Choice } from "../../ui/Choice";
import { Limits } from "./Limits";
import { Seek } from "./Seek";
import { SideBySide } from "./SideBySide";
import { Sizes } from "./Sizes";

const VIEWS = [
  { value: "limits", says: "What limits it" },
  { value: "sure", says: "Be sure" },
  { value: "sizes", says: "Sizes" },
  { value: "beside", says: "Side by side" },
] as const;
type View = (typeof VIEWS)[number]["value"];

/** What to change, and what it would buy. */
export function ImprovePage() {
  const [query, setQuery] = useSearchParams();
  const view = VIEWS.find((other) => other.value === query.get("view"))?.value ?? "limits";
  return (
    <>
      <div className="mb-3">
        <Choice<View>
          label="Ways to improve"
          value={view}
          options={VIEWS}
          onChange={(next) => setQuery({ view: next }, { replace: true })}
        />
      </div>
      {view === "limits" && <Limits />}
      {view === "sure" && <Seek />}
      {view === "sizes" && <Sizes />}
      {view === "beside" && <SideBySide />}
    </>
  );
}
