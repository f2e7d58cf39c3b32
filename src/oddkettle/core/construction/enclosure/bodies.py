"""What takes room in a box, and the usual boxes."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.construction.parts.lines import Line

HEAVY_KG = 5.0
"""A part this heavy stands on the floor [judgement]."""
CASES_MM: tuple[tuple[float, float, float], ...] = (
    (300.0, 210.0, 220.0),
    (400.0, 300.0, 280.0),
    (500.0, 340.0, 320.0),
    (560.0, 380.0, 350.0),
    (680.0, 440.0, 380.0),
    (760.0, 520.0, 400.0),
    (900.0, 600.0, 450.0),
)
"""Inner sizes of usual boxes, length, width and height [judgement]."""
DENSITY = {"wood": 0.6, "plastic": 1.0, "metal": 2.7}
"""Of birch plywood, plastics and aluminium [kg/litre, textbook]."""
THIN_WALL_MM = {"plastic": 4.0, "metal": 2.0}
"""Walls of bought cases are thinner than those one builds [judgement]."""


@dataclass(frozen=True)
class Enclosure:
    """Inner size of the box, its wall [mm] and its own weight [kg]."""

    length_mm: float
    width_mm: float
    height_mm: float
    wall_mm: float
    material: str
    empty_kg: float


@dataclass(frozen=True)
class Body:
    """One thing that takes room."""

    key: str
    name: str
    length_mm: float
    width_mm: float
    height_mm: float
    kg: float
    clear_mm: float
    above_mm: float
    hot: bool
    low: bool

    @property
    def is_battery(self) -> bool:
        """Whether nothing live may stand above it: what falls or sparks there meets its posts."""
        return self.key.split(".")[0] == "battery"


def bodies_of(lines: tuple[Line, ...]) -> tuple[Body, ...]:
    """Every single thing of a parts list that stands in the box."""
    found = []
    for line in lines:
        part = line.article
        if part.bulk is None or not part.inside:
            continue
        for n in range(1, int(part.count) + 1):
            many = part.count > 1
            found.append(
                Body(
                    f"{part.key}.{n}" if many else part.key,
                    f"{part.name} ({n})" if many else part.name,
                    part.bulk.length_mm,
                    part.bulk.width_mm,
                    part.bulk.height_mm,
                    part.kg,
                    part.clear_mm,
                    part.above_mm,
                    part.hot,
                    part.low or part.kg > HEAVY_KG,
                )
            )
    return tuple(found)


def empty_kg(
    size: tuple[float, float, float], material: str, wall_mm: float, kg: float | None = None
) -> float:
    """Weight of an empty box by its walls, where it is not known [kg]."""
    if kg is not None:
        return kg
    length, width, height = size
    area_m2 = 2.0 * (length * width + length * height + width * height) / 1e6
    thickness_mm = wall_mm if material == "wood" else min(wall_mm, THIN_WALL_MM[material])
    return area_m2 * thickness_mm * DENSITY[material]
