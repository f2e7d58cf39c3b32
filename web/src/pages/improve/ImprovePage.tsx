import { useView } from "../../ui/useView";
import { Views } from "../../ui/Views";
import { CheapestMend } from "./CheapestMend";
import { Limits } from "./Limits";
import { Seek } from "./Seek";
import { SideBySide } from "./SideBySide";
import { Sizes } from "./Sizes";

const VIEWS = [
  { value: "limits", text: "What limits it" },
  { value: "mend", text: "Easiest fix" },
  { value: "sure", text: "How much is enough" },
  { value: "sizes", text: "Sizes" },
  { value: "beside", text: "Side by side" },
] as const;

/** What to change, and what it would buy. */
export function ImprovePage() {
  const [view, setView] = useView(VIEWS);
  return (
    <>
      <div className="mb-3">
        <Views label="Ways to improve" value={view} views={VIEWS} onChange={setView} />
      </div>
      {view === "limits" && <Limits />}
      {view === "mend" && <CheapestMend />}
      {view === "sure" && <Seek />}
      {view === "sizes" && <Sizes />}
      {view === "beside" && <SideBySide />}
    </>
  );
}
