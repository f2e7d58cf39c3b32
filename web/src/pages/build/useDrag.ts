import { type PointerEvent, useRef } from "react";

interface Drag {
  key: string;
  from: { x: number; y: number };
  scale: number;
}

interface Moves {
  onMove: (key: string, across: number, up: number) => void;
  onDone: (key: string, across: number, up: number) => void;
}

/** Dragging inside an SVG whose units are millimetres: tells by how far, y upwards. */
export function useDrag({ onMove, onDone }: Moves) {
  const drag = useRef<Drag | null>(null);
  function by(event: PointerEvent): [number, number] {
    const { from, scale } = drag.current ?? { from: { x: 0, y: 0 }, scale: 1 };
    return [(event.clientX - from.x) * scale, (from.y - event.clientY) * scale];
  }
  return (key: string) => ({
    onPointerDown: (event: PointerEvent<SVGGElement>) => {
      const svg = event.currentTarget.ownerSVGElement;
      const ctm = svg?.getScreenCTM();
      if (!ctm || event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { key, from: { x: event.clientX, y: event.clientY }, scale: 1 / ctm.a };
    },
    onPointerMove: (event: PointerEvent<SVGGElement>) => {
      if (drag.current?.key === key) onMove(key, ...by(event));
    },
    onPointerUp: (event: PointerEvent<SVGGElement>) => {
      if (drag.current?.key !== key) return;
      const [across, up] = by(event);
      drag.current = null;
      onDone(key, across, up);
    },
    onPointerCancel: () => {
      const was = drag.current;
      drag.current = null;
      if (was) onDone(key, 0, 0);
    },
  });
}
