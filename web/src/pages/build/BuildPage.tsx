import { useState } from "react";
import type { BuildReport, Plan } from "../../api/client";
import { usePlanPart } from "../../plan/context";
import { gravest, Mark } from "../../plan/judgements";
import { PageHead } from "../../ui/PageHead";
import { useView } from "../../ui/useView";
import { Views } from "../../ui/Views";
import { Checks } from "./checks/Checks";
import { FaultFinder } from "./checks/FaultFinder";
import { Faces } from "./enclosure/Faces";
import { Fit } from "./enclosure/Fit";
import { Parts } from "./Parts";
import { Print } from "./Print";
import { UnitBooklet } from "./UnitBooklet";
import { useBuild } from "./useBuild";
import { Circuits } from "./wiring/Circuits";

const VIEWS = [
  { value: "circuits", text: "Circuits" },
  { value: "parts", text: "Parts" },
  { value: "fit", text: "Box fit" },
  { value: "faces", text: "Faces" },
  { value: "checks", text: "Checks" },
  { value: "faults", text: "Fault finder" },
  { value: "print", text: "Print" },
] as const;
/** A ready-made unit is not built: it has a booklet in place of what is drawn and fitted. */
const UNIT_VIEWS = [
  { value: "unit", text: "The unit" },
  ...VIEWS.filter(({ value }) => value !== "fit" && value !== "faces"),
] as const;

/** What every view gets: the building, and a way to try a draft while a shape is dragged. */
export interface ViewProps {
  build: BuildReport;
  /** Show how a draft would do without keeping it; null goes back to the plan. */
  onTry: (draft: Plan | null) => void;
}

/** From the plan to a box that is safe to switch on. */
/** A headline that speaks against the box itself, and not against this trip with it. */
const NOT_YET = /^(Not |A part is missing)/;

export function BuildPage() {
  const draft = usePlanPart((state) => state.draft);
  const [tried, setTried] = useState<Plan | null>(null);
  const { report, problem } = useBuild(draft, tried);
  const views = draft.box.unit ? UNIT_VIEWS : VIEWS;
  const [view, setView] = useView<(typeof UNIT_VIEWS | typeof VIEWS)[number]["value"]>(views);
  if (!report) {
    return <p className="p-8 text-ash">{problem ? problem.detail : "Working the box out…"}</p>;
  }
  const props = { build: report, onTry: setTried };
  const worst = gravest(report.judgements);
  // The mark stands with a headline that warns, never beside "no problems found".
  const warns = NOT_YET.test(report.headline);
  const grave = warns && (worst === "danger" || worst === "fault") ? worst : null;
  return (
    <>
      <PageHead
        mark={grave && <Mark severity={grave} />}
        answer={report.headline}
        facts={report.detail}
        grave={grave !== null}
      />
      {problem && (
        <p role="alert" className="px-1 text-danger">
          {problem.detail}
        </p>
      )}
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2 print:hidden">
        <Views label="Parts of the building" value={view} views={views} onChange={setView} />
      </div>
      {view === "unit" && <UnitBooklet build={report} />}
      {view === "circuits" && <Circuits {...props} />}
      {view === "parts" && <Parts {...props} />}
      {view === "fit" && <Fit {...props} />}
      {view === "faces" && <Faces {...props} />}
      {view === "checks" && <Checks {...props} />}
      {view === "faults" && <FaultFinder {...props} />}
      {view === "print" && <Print {...props} />}
    </>
  );
}
