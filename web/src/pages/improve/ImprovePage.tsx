import { useView } from "../../ui/useView";
import { Buy } from "./Buy";
import { Fixes } from "./Fixes";
import { VIEWS } from "./ImproveViews";
import { SideBySide } from "./SideBySide";

/** What to change, what to buy, and how two plans compare. */
export function ImprovePage() {
  const [view] = useView(VIEWS);
  if (view === "buy") return <Buy />;
  return view === "beside" ? <SideBySide /> : <Fixes />;
}
