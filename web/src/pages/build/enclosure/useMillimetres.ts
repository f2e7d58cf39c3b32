import { useDrag } from "../../../ui/useDrag";

interface Moves {
  onMove: (key: string, across: number, up: number) => void;
  onDone: (key: string, across: number, up: number) => void;
}

/** Dragging inside an SVG whose units are millimetres: tells by how far, y upwards. */
export function useMillimetres({ onMove, onDone }: Moves) {
  return useDrag<{ key: string; x: number; y: number; scale: number }, string>({
    begin: (event, key) => {
      const target = event.currentTarget;
      const ctm = target instanceof SVGElement ? target.ownerSVGElement?.getScreenCTM() : null;
      return ctm ? { key, x: event.clientX, y: event.clientY, scale: 1 / ctm.a } : null;
    },
    move: ({ key, x, y, scale }, event) =>
      onMove(key, (event.clientX - x) * scale, (y - event.clientY) * scale),
    end: ({ key, x, y, scale }, event, dropped) =>
      dropped
        ? onDone(key, (event.clientX - x) * scale, (y - event.clientY) * scale)
        : onDone(key, 0, 0),
  });
}
