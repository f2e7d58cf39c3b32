import { type PointerEvent, useRef } from "react";

interface Dragging<Held, Key> {
  /** What is held from where it was taken hold of; null where it cannot be. */
  begin: (event: PointerEvent<Element>, key: Key) => Held | null;
  move: (held: Held, event: PointerEvent<Element>) => void;
  /** Let go; `dropped` is false where the system took the pointer away. */
  end?: (held: Held, event: PointerEvent<Element>, dropped: boolean) => void;
}

export interface DragHandlers {
  onPointerDown: (event: PointerEvent<Element>) => void;
  onPointerMove: (event: PointerEvent<Element>) => void;
  onPointerUp: (event: PointerEvent<Element>) => void;
  onPointerCancel: (event: PointerEvent<Element>) => void;
}

/**
 * The one way in which things are dragged: the pointer is captured by what it went down on, one
 * thing is held at a time, and only by the first button. Gives the handlers of a grip by its key.
 */
export function useDrag<Held, Key = void>(drag: Dragging<Held, Key>): (key: Key) => DragHandlers {
  const held = useRef<{ what: Held } | null>(null);
  function letGo(event: PointerEvent<Element>, dropped: boolean) {
    const was = held.current;
    held.current = null;
    if (was) drag.end?.(was.what, event, dropped);
  }
  return (key) => ({
    onPointerDown: (event) => {
      if (event.button !== 0) return;
      const what = drag.begin(event, key);
      if (what === null) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { what };
    },
    onPointerMove: (event) => {
      if (held.current) drag.move(held.current.what, event);
    },
    onPointerUp: (event) => letGo(event, true),
    onPointerCancel: (event) => letGo(event, false),
  });
}

/** The innermost element under the pointer that carries this datum, and what it carries. */
export function datumUnder(event: PointerEvent<Element>, name: string): string | undefined {
  for (const element of document.elementsFromPoint(event.clientX, event.clientY)) {
    const datum = element instanceof HTMLElement ? element.dataset[name] : undefined;
    if (datum !== undefined) return datum;
  }
  return undefined;
}
