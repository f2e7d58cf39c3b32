import { useState } from "react";
import type { Box, Period, RunReport } from "../../../api/client";
import { useWidth } from "../../../drawing/useWidth";
import { useUnit } from "../../../plan/context";
import { gravest, useJudgements } from "../../../plan/judgements";
import { amountText } from "../../../quantities/units";
import type { PartKey } from "../parts";
import { Vessel } from "./bank/Vessel";
import { JoiningShape, UnitFrame } from "./JoiningShape";
import { columns, layRibbons, rateUnit, type Shown, strongest } from "./layout";
import { partOf, SourceShape } from "./SourceShape";
import { Drips, UseRibbon } from "./UseRibbons";

interface Props {
  run: RunReport;
  box: Box;
  period: Period;
  shown: Shown;
  floor: number;
  chosen: PartKey;
  onChoose: (part: PartKey) => void;
  onSwitch: (part: PartKey) => void;
}

/** Ribbons and bottlenecks: each stream as wide as its charge, each bottleneck as open as its limit. */
export function RibbonDrawing(props: Props) {
  const { run, box, period, shown, floor, chosen, onChoose, onSwitch } = props;
  const unit = useUnit();
  const [ref, width] = useWidth<HTMLDivElement>();
  const [text, setText] = useState<string | null>(null);
  const judged = useJudgements();
  const c = columns(width, period.draws.length);
  const full = shown.kind === "moment" ? strongest(run) : undefined;
  const { sources, draws, bottom } = layRibbons(period, unit, c, full);
  const spilling = sources.filter((source) => source.spilledPx > 0);
  const over = spilling.reduce(
    (sum, { spilled }) => ({ ah: sum.ah + spilled.ah, wh: sum.wh + spilled.wh }),
    { ah: 0, wh: 0 },
  );
  const name = rateUnit(unit, shown);
  const frozen = spilling.reduce((sum, source) => sum + source.frozen.ah, 0);
  const why = frozen > over.ah / 2 ? "refused: too cold to charge" : "wasted: battery full";
  const spillWords = `${amountText(over, unit)} ${name} ${why}`;
  const vesselBottom = c.top + c.flow + 78;
  const dripsTop = Math.max(vesselBottom, c.narrow ? bottom : 0) + 12;
  const height = Math.max(c.height, dripsTop + (box.unit ? 74 : 64), bottom + 8);
  const day = shown.kind === "day" ? shown.index : null;
  return (
    <div ref={ref} className="min-w-0">
      {width > 0 && (
        <svg
          width={width}
          height={height}
          className="block"
          role="group"
          aria-label="Where the charge comes from and goes"
          onPointerLeave={() => setText(null)}
        >
          {box.unit && <UnitFrame unit={box.unit} c={c} bottom={dripsTop + 60} />}
          {sources.map((source) => (
            <SourceShape
              key={source.key}
              source={source}
              unitName={name}
              spilled={source === spilling[0] ? spillWords : ""}
              mark={gravest(judged.filter((one) => one.part === partOf(source)))}
              c={c}
              chosen={chosen === partOf(source)}
              onChoose={() => onChoose(partOf(source))}
              onSwitch={() => onSwitch(partOf(source))}
              onSay={setText}
            />
          ))}
          <JoiningShape
            box={box}
            sources={sources}
            c={c}
            chosen={chosen === "joining"}
            onChoose={() => onChoose("joining")}
          />
          {draws.map((draw) => (
            <UseRibbon
              key={draw.key}
              draw={draw}
              unitName={name}
              day={day}
              opens={shown.kind !== "moment" && draw.key !== "smaller"}
              mark={gravest(judged.filter((one) => one.part === `appliance:${draw.key}`))}
              c={c}
              onSay={setText}
            />
          ))}
          <Vessel
            run={run}
            shown={shown}
            floor={floor}
            c={c}
            mark={gravest(judged.filter((one) => one.part === "battery"))}
            chosen={chosen}
            onChoose={onChoose}
          />
          <Drips period={period} shown={shown} day={day} c={c} top={dripsTop} />
        </svg>
      )}
      <p className="mt-1 min-h-5 text-sm" data-testid="ribbon-sum">
        {text ?? (
          <span className="text-ash">
            Point at a ribbon for the sum behind its width; a click opens it.
          </span>
        )}
      </p>
    </div>
  );
}
