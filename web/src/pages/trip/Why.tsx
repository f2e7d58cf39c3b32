import { Link } from "react-router";
import { usePlanState } from "../../plan/context";
import { Figure, STANDING } from "../../plan/sums";
import { useTrack } from "../../plan/useLog";
import { unbroken } from "../../quantities/units";
import { SKY_SAYS } from "./SkyChoice";

/** How the answer comes about, each figure with its sum; and how the page is worked. */
export function Why() {
  const { run, plan, asPlanned } = usePlanState();
  const followed = useTrack();
  const track = followed?.begun && !asPlanned ? followed : null;
  return (
    <section aria-label="Why" className="mt-3 flex max-w-[62rem] flex-col gap-1 px-1">
      {track ? (
        <p>
          {track.headline} {track.detail} <Figure of={STANDING}>how it is known</Figure> ·{" "}
          <Link className="underline" to={`/plan/${plan.id}/log`}>
            the log
          </Link>
        </p>
      ) : (
        <>
          {run.odds && (
            <p>
              <span data-testid="odds">{unbroken(run.odds.detail)}</span>{" "}
              <Figure of="odds" className="text-ash">
                the odds
              </Figure>
            </p>
          )}
          <p className="text-ash">
            <span data-testid="detail">
              <span className="font-semibold">{SKY_SAYS[run.sky]}:</span>{" "}
              {run.verdict.headline !== run.headline && `${run.verdict.headline} `}
              {unbroken(run.verdict.detail)}
            </span>{" "}
            <Figure of="lowest">the lowest point</Figure> ·{" "}
            <Figure of="ledger">the whole trip’s sum</Figure> ·{" "}
            <Figure of="alone">with no charging</Figure>
          </p>
        </>
      )}
      <details className="text-ash">
        <summary className="cursor-pointer py-1">How to use this page</summary>
        <p>
          Drag a block to move it, its ends to stretch it, or onto another day; drag the dashed line
          to move your reserve. With a block in focus: arrows move it, shift and arrows stretch it,
          delete removes it. D, H and P put a drive, a hook-up and a panel at the cursor.{" "}
          {run.odds &&
            `In 8 of 10 tries the level stays in the band. ${run.odds.scenarios} tries were run, each with its own weather${
              run.odds.step_min > (run.series?.step_min ?? 0)
                ? " at coarser steps, while you drag"
                : ""
            }.`}
        </p>
      </details>
    </section>
  );
}
