import type { BodyReport, FaceItem, FittingReport, PlacedPart } from "../../../api/client";

/** Where every part stands, as the plan keeps it. */
export function placesOf(bodies: readonly BodyReport[]): PlacedPart[] {
  return bodies.map((body) => ({
    part: body.key,
    x_mm: body.x0,
    y_mm: body.y0,
    z_mm: body.z0,
    turned: body.turned,
  }));
}

/** All parts where they stand, one of them moved; nothing goes below nought. */
export function moved(
  bodies: readonly BodyReport[],
  key: string,
  by: { x?: number; y?: number; z?: number },
): PlacedPart[] {
  const shifted = (at: number, more = 0) => Math.max(Math.round(at + more), 0);
  return placesOf(bodies).map((place) =>
    place.part === key
      ? {
          ...place,
          x_mm: shifted(place.x_mm, by.x),
          y_mm: shifted(place.y_mm, by.y),
          z_mm: shifted(place.z_mm, by.z),
        }
      : place,
  );
}

/** All parts where they stand, one of them turned by a quarter. */
export function turnedAbout(bodies: readonly BodyReport[], key: string): PlacedPart[] {
  return placesOf(bodies).map((place) =>
    place.part === key ? { ...place, turned: !place.turned } : place,
  );
}

/** Fittings where they are, one of them moved on its face; those that were not pinned now are. */
export function movedItem(
  fittings: readonly FittingReport[],
  items: readonly FaceItem[],
  key: string,
  to: Partial<Omit<FaceItem, "item">>,
): FaceItem[] {
  const holes = new Map(items.map((item) => [item.item, item.hole_mm]));
  return fittings.map((fitting) => {
    const item: FaceItem = {
      item: fitting.key,
      face: fitting.face,
      x_mm: fitting.x_mm,
      y_mm: fitting.y_mm,
      hole_mm: holes.get(fitting.key) ?? null,
    };
    if (fitting.key !== key) return item;
    const next = { ...item, ...to };
    return { ...next, x_mm: tenth(next.x_mm), y_mm: tenth(next.y_mm) };
  });
}

function tenth(value: number): number {
  return Math.max(Math.round(value * 10) / 10, 0);
}

/** Steps of the arrow keys in millimetres: up is positive. */
export function arrowStep(key: string, fine: boolean): { across: number; up: number } | null {
  const step = fine ? 1 : 5;
  switch (key) {
    case "ArrowLeft":
      return { across: -step, up: 0 };
    case "ArrowRight":
      return { across: step, up: 0 };
    case "ArrowUp":
      return { across: 0, up: step };
    case "ArrowDown":
      return { across: 0, up: -step };
    default:
      return null;
  }
}
