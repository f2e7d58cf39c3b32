import { useState } from "react";
import type { ShelfItem } from "../../api/client";
import { useReference } from "../../plan/useReference";
import { shortFigure } from "../../quantities/units";
import { Button } from "../../ui/Button";

/** Typical appliances to start from, each with the range that such things really span. */
export function Shelf({ onAdd }: { onAdd: (item: ShelfItem) => void }) {
  const items = useReference()?.shelf;
  const [looked, setLooked] = useState<ShelfItem | null>(null);
  return (
    <section className="mt-3 px-1" aria-label="Shelf" onPointerLeave={() => setLooked(null)}>
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-1 text-base">Shelf</h2>
        {items?.map((item) => (
          <Button
            key={item.label}
            aria-describedby="shelf-range"
            onPointerEnter={() => setLooked(item)}
            onFocus={() => setLooked(item)}
            onClick={() => onAdd(item)}
          >
            {item.label}
          </Button>
        ))}
      </div>
      <p id="shelf-range" className="mt-1 min-h-5 text-sm" data-testid="shelf-range">
        {looked ? (
          <>
            <strong>
              {looked.label}: {shortFigure(looked.low_w)} to {shortFigure(looked.high_w)} W
            </strong>
            , here {shortFigure(looked.appliance.power_w)} W ± {looked.appliance.spread_percent} %;{" "}
            {looked.note}. <span className="text-ash">Range: {looked.source}.</span>
          </>
        ) : (
          <span className="text-ash">
            Shelf figures are guesses: a reading of your own beats them.
          </span>
        )}
      </p>
    </section>
  );
}
