import { PageHead } from "../../ui/PageHead";
import { ImproveViews } from "./ImproveViews";
import { useOnward } from "./Onward";
import { Seek } from "./Seek";
import { Sizes } from "./Sizes";

/** What to buy: the sizes that are enough, and how much of one thing is. */
export function Buy() {
  const { onward, known } = useOnward();
  if (!known) return null;
  return (
    <>
      {onward ? (
        <>
          <PageHead
            answer="You are under way: how much of what you have is enough?"
            facts="Sizes are tried over the whole plan: choose it below."
          />
          <ImproveViews value="buy" />
        </>
      ) : (
        <Sizes />
      )}
      <Seek />
    </>
  );
}
