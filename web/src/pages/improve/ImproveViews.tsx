import { useView } from "../../ui/useView";
import { Views } from "../../ui/Views";

/** The three questions of the page. */
export const VIEWS = [
  { value: "fixes", text: "What fixes it?" },
  { value: "buy", text: "What to buy?" },
  { value: "beside", text: "Compare" },
] as const;

export type View = (typeof VIEWS)[number]["value"];

/** The questions as tabs, under the answer of the one that is asked. */
export function ImproveViews({ value }: { value: View }) {
  const [, setView] = useView(VIEWS);
  return (
    <div className="mb-2">
      <Views label="Ways to improve" value={value} views={VIEWS} onChange={setView} />
    </div>
  );
}
