import type { KeyboardEvent, PointerEvent } from "react";
import { useDrag } from "../../../ui/useDrag";

const HIGH = 14;
const MOST = 95;

interface Props {
  floor: number;
  /** Where the reserve's line runs, and how many percent a pixel is. */
  y: number;
  perPx: number;
  width: number;
  tabIndex?: number;
  onFloor: (percent: number, done: boolean) => void;
}

/** The reserve's line, to be dragged up and down or moved by keys. */
export function ReserveHandle({ floor, y, perPx, width, tabIndex = 0, onFloor }: Props) {
  const within = (percent: number) => Math.round(Math.min(Math.max(percent, 0), MOST));
  const at = (from: { y: number; floor: number }, event: PointerEvent) =>
    within(from.floor + (from.y - event.clientY) * perPx);
  const dragged = useDrag<{ y: number; floor: number }>({
    begin: (event) => ({ y: event.clientY, floor }),
    move: (from, event) => onFloor(at(from, event), false),
    end: (from, event) => onFloor(at(from, event), true),
  });

  function key(event: KeyboardEvent) {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onFloor(within(floor + by), true);
  }

  return (
    <rect
      role="slider"
      tabIndex={tabIndex}
      aria-label="Reserve"
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={MOST}
      aria-valuenow={floor}
      aria-valuetext={`${floor} %`}
      y={y - HIGH / 2}
      width={width}
      height={HIGH}
      fill="transparent"
      style={{ cursor: "ns-resize", touchAction: "none" }}
      onKeyDown={key}
      {...dragged()}
    >
      <title>Your reserve, drag it up or down</title>
    </rect>
  );
}
