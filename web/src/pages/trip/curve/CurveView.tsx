import type { BoardProps } from "../board/DayBoard";
import { ALONE, ALONE_NARROW, onPhone } from "../board/geometry";
import { useBoard } from "../board/useBoard";
import { DayAlone } from "./DayAlone";
import { TripCurve } from "./TripCurve";

interface Props extends BoardProps {
  chosen: number;
  onChoose: (day: number) => void;
  onAllDays: () => void;
}

/** The whole trip as one curve, and the chosen day below it. */
export function CurveView({ onAllDays, ...shown }: Props) {
  const shape = onPhone() ? ALONE_NARROW : ALONE;
  const board = useBoard(shown.plan, shown.run, shape, shown.onCursor);
  return (
    <>
      <TripCurve {...shown} board={board} />
      <DayAlone {...shown} board={board} onAllDays={onAllDays} />
    </>
  );
}
