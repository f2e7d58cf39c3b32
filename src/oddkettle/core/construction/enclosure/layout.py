"""Does it all go in: a proposal of where each part stands, what collides, weight and its centre.

Inner corner near, left, low is the origin: x along the box's length, y along its width, z up [mm].
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations

from oddkettle.core.construction.enclosure.bodies import CASES_MM, Body, Enclosure, empty_kg
from oddkettle.core.construction.enclosure.lift import lift_text
from oddkettle.core.construction.enclosure.standing import (
    Clash,
    Fit,
    Standing,
    apart_mm,
    gap_mm,
    overlap,
)
from oddkettle.core.units.quantity import kilogram
from oddkettle.core.values.cache import cached

SHELF_MM = 9.0
MAX_GROWTH_MM = 1500


@cached
def place_all(
    enclosure: Enclosure, bodies: tuple[Body, ...], pinned: tuple[Standing, ...]
) -> tuple[tuple[Standing, ...], tuple[Body, ...]]:
    """(what found a place, what did not): heaviest first, on the floor, then on one shelf.

    Cached: while one part is dragged the search for a usual box is the same again and again.
    """
    standing = list(pinned)
    left = []
    there = {s.body.key for s in pinned}
    for body in sorted(bodies, key=lambda b: (not b.low, -b.length_mm * b.width_mm)):
        if body.key in there:
            continue
        spot = _spot(enclosure, body, standing)
        if spot is None:
            left.append(body)
        else:
            standing.append(spot)
    return tuple(standing), tuple(left)


def shelves_of(standing: tuple[Standing, ...]) -> tuple[float, ...]:
    """Heights of the shelves that a layout stands on [mm], the lowest first."""
    return tuple(sorted({spot.z_mm for spot in standing if spot.z_mm > SHELF_MM}))


def _spot(enclosure: Enclosure, body: Body, standing: list[Standing]) -> Standing | None:
    """The first free place, near the left and near corner."""
    for z in _levels(body, standing):
        for turned in (False, True):
            xs, ys = _corners(body, standing)
            for y in ys:
                for x in xs:
                    spot = Standing(body, x, y, z, turned)
                    if _free(enclosure, spot, standing):
                        return spot
    return None


def _levels(body: Body, standing: list[Standing]) -> Iterator[float]:
    yield 0.0
    if body.low:
        return
    floor = [s for s in standing if s.z_mm == 0.0]
    if floor:
        yield max(s.span[2][1] + s.body.above_mm for s in floor) + SHELF_MM
    lower = [s for s in floor if not s.body.low]
    if lower:
        yield max(s.span[2][1] + s.body.above_mm for s in lower) + SHELF_MM


def _corners(body: Body, standing: list[Standing]) -> tuple[list[float], list[float]]:
    """Candidate x and y: at the wall, and just clear of each body."""
    edge = body.clear_mm
    xs, ys = {edge}, {edge}
    for other in standing:
        gap = gap_mm(body, other.body)
        xs.add(other.span[0][1] + gap)
        ys.add(other.span[1][1] + gap)
        xs.add(max(other.span[0][0], edge))
        ys.add(max(other.span[1][0], edge))
    return sorted(xs), sorted(ys)


def _free(enclosure: Enclosure, spot: Standing, standing: list[Standing]) -> bool:
    if any(by > 1e-6 for _, by in _sticks_out(enclosure, spot)):
        return False
    return all(
        _short_of_gap(spot, other) <= 1e-6 and not above_battery(spot, other) for other in standing
    )


def above_battery(a: Standing, b: Standing) -> bool:
    """Whether one of them is a battery and the other, which is live, stands over it."""
    lower, upper = (a, b) if a.z_mm <= b.z_mm else (b, a)
    if not lower.body.is_battery or upper.body.is_battery:
        return False
    x, y, z = (overlap(i, j) for i, j in zip(lower.span, upper.span, strict=True))
    return x > 0.5 and y > 0.5 and z <= 0.5


def _sticks_out(enclosure: Enclosure, spot: Standing) -> Iterator[tuple[str, float]]:
    """(which way, by how much) a body and the room it wants reach beyond the walls."""
    clear = spot.body.clear_mm
    (x0, x1), (y0, y1), (z0, z1) = spot.span
    yield "length", max(clear - x0, x1 + clear - enclosure.length_mm)
    yield "width", max(clear - y0, y1 + clear - enclosure.width_mm)
    yield "height", max(-z0, z1 + spot.body.above_mm - enclosure.height_mm)


def _short_of_gap(a: Standing, b: Standing) -> float:
    """By how much two bodies are closer than they should be [mm]; above each other a shelf does."""
    x, y, z = (overlap(i, j) for i, j in zip(a.span, b.span, strict=True))
    gap = gap_mm(a.body, b.body)
    beside = min(x, y) + gap
    lower = a if a.z_mm <= b.z_mm else b
    above = z + lower.body.above_mm
    return min(beside, above) if beside > 0 and above > 0 else 0.0


def proposed_case(
    bodies: tuple[Body, ...], material: str, wall_mm: float, kg: float | None = None
) -> Enclosure:
    """The smallest usual box that takes everything; the largest where none does."""
    for size in CASES_MM:
        found = _case(size, material, wall_mm, kg)
        if not place_all(found, bodies, ())[1]:
            return found
    return _case(CASES_MM[-1], material, wall_mm, kg)


def _case(
    size: tuple[float, float, float], material: str, wall_mm: float, kg: float | None
) -> Enclosure:
    return Enclosure(*size, wall_mm, material, empty_kg(size, material, wall_mm, kg))


def fit(
    enclosure: Enclosure,
    bodies: tuple[Body, ...],
    pinned: tuple[Standing, ...],
    carried_kg: float,
) -> Fit:
    """Place what is not pinned, and say what is wrong.

    carried_kg : all that is carried, the box itself too
    """
    placed, left = place_all(enclosure, bodies, pinned)
    # In the order of the list, so that a part keeps its number when it is moved.
    order = {body.key: n for n, body in enumerate(bodies)}
    standing = tuple(sorted(placed, key=lambda spot: order[spot.body.key]))
    clashes = [*_walls(enclosure, standing), *_pairs(standing)]
    clashes += _missing(enclosure, bodies, pinned, left)
    return Fit(
        standing=standing,
        clashes=tuple(clashes),
        kg=carried_kg,
        centre_mm=_centre(enclosure, standing),
        verdict=_verdict(clashes),
        lift=lift_text(carried_kg, sum(body.kg for body in bodies if body.is_battery)),
    )


def _walls(enclosure: Enclosure, standing: tuple[Standing, ...]) -> Iterator[Clash]:
    for spot in standing:
        for way, by in _sticks_out(enclosure, spot):
            if by > 0.5:
                yield Clash(
                    "outside",
                    (spot.body.key,),
                    by,
                    f"{spot.body.name} does not fit by {by:.0f} mm in {way}, with the room it "
                    "wants.",
                    f"Move or turn it, or take a box {by:.0f} mm more in {way}.",
                )
        if spot.body.low and spot.z_mm > 1.0:
            yield Clash(
                "high",
                (spot.body.key,),
                spot.z_mm,
                f"{spot.body.name}, {kilogram(spot.body.kg)}, stands {spot.z_mm:.0f} mm up.",
                "Heavy parts go on the floor, or the box tips.",
            )


def _pairs(standing: tuple[Standing, ...]) -> Iterator[Clash]:
    for a, b in combinations(standing, 2):
        inside = apart_mm(a, b)
        if inside < -0.5:
            yield Clash(
                "overlap",
                (a.body.key, b.body.key),
                -inside,
                f"{a.body.name} and {b.body.name} overlap by {-inside:.0f} mm.",
                "Move one of them.",
            )
            continue
        if above_battery(a, b):
            upper = a if a.z_mm > b.z_mm else b
            yield Clash(
                "above",
                (a.body.key, b.body.key),
                0.0,
                f"{upper.body.name} stands above a battery.",
                "Nothing live, sparking or hot goes over its posts: move it beside the battery, or "
                "take a longer box.",
            )
            continue
        short = _short_of_gap(a, b)
        if short > 0.5:
            warm = (a.body.hot and b.body.low) or (b.body.hot and a.body.low)
            yield Clash(
                "heat" if warm else "close",
                (a.body.key, b.body.key),
                short,
                f"{a.body.name} and {b.body.name} are {short:.0f} mm too close"
                + (": heat ages the battery." if warm else " for air and cables."),
                f"Leave {gap_mm(a.body, b.body):.0f} mm beside each other, or a shelf between.",
            )


def _missing(
    enclosure: Enclosure,
    bodies: tuple[Body, ...],
    pinned: tuple[Standing, ...],
    left: tuple[Body, ...],
) -> Iterator[Clash]:
    if not left:
        return
    grown = least_growth(enclosure, bodies, pinned)
    names = ", ".join(body.name for body in left)
    alone = [reason for body in left if (reason := _too_large(enclosure, body))]
    if alone and len(left) == 1 and grown is not None:
        way, by = grown
        yield Clash(
            "missing",
            (left[0].key,),
            alone[0][0],
            alone[0][1],
            f"A box {by:.0f} mm more in {way} would take it with all the rest.",
        )
        return
    if grown is None:
        usual = proposed_case(bodies, enclosure.material, enclosure.wall_mm)
        yield Clash(
            "missing",
            tuple(b.key for b in left),
            alone[0][0] if alone else 0.0,
            alone[0][1] if alone else f"No room is left for {names}.",
            f"The smallest usual box that takes everything is {usual.length_mm:.0f} x "
            f"{usual.width_mm:.0f} x {usual.height_mm:.0f} mm inside.",
        )
        return
    way, by = grown
    have = {
        "length": enclosure.length_mm,
        "width": enclosure.width_mm,
        "height": enclosure.height_mm,
    }[way]
    yield Clash(
        "missing",
        tuple(b.key for b in left),
        by,
        f"It does not fit by {by:.0f} mm: no room is left for {names}.",
        f"A box of {have + by:.0f} mm inner {way} in place of {have:.0f} mm would do"
        + (", or let the tool place everything anew." if pinned else "."),
    )


def _too_large(enclosure: Enclosure, body: Body) -> tuple[float, str] | None:
    """By how much a body alone is too large for the box, as it fits best."""
    found = []
    for turned in (False, True):
        spot = Standing(body, body.clear_mm, body.clear_mm, 0.0, turned)
        found.append(max(_sticks_out(enclosure, spot), key=lambda way_by: way_by[1]))
    way, by = min(found, key=lambda way_by: way_by[1])
    if by <= 0.5:
        return None
    return by, f"{body.name} does not fit by {by:.0f} mm in {way}, even by itself."


def least_growth(
    enclosure: Enclosure, bodies: tuple[Body, ...], pinned: tuple[Standing, ...]
) -> tuple[str, float] | None:
    """(which way, mm): the smallest growth of one inner side that lets everything in."""
    best: tuple[str, float] | None = None
    for way in ("length", "width", "height"):
        by = _grow(enclosure, way, bodies, pinned, MAX_GROWTH_MM if best is None else best[1])
        if by is not None and (best is None or by < best[1]):
            best = way, by
    return best


def _grow(
    enclosure: Enclosure,
    way: str,
    bodies: tuple[Body, ...],
    pinned: tuple[Standing, ...],
    most: float,
) -> float | None:
    """Halve the growth along one side until a millimetre decides; None where `most` is not enough.

    What fits a box nearly always fits a larger one, so that halving finds the edge.
    """

    def fits(by: int) -> bool:
        field = f"{way}_mm"
        larger = replace(enclosure, **{field: getattr(enclosure, field) + by})
        return not place_all(larger, bodies, pinned)[1]

    low, high = 0, int(most)
    if not fits(high):
        return None
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if fits(middle) else (middle, high)
    return float(high)


def _centre(enclosure: Enclosure, standing: tuple[Standing, ...]) -> tuple[float, float, float]:
    """Centre of mass; the empty box counts at its middle, a third up."""
    sums = [
        enclosure.empty_kg * enclosure.length_mm / 2,
        enclosure.empty_kg * enclosure.width_mm / 2,
        enclosure.empty_kg * enclosure.height_mm / 3,
    ]
    kg = enclosure.empty_kg
    for spot in standing:
        kg += spot.body.kg
        for axis, (low, high) in enumerate(spot.span):
            sums[axis] += spot.body.kg * (low + high) / 2
    x, y, z = (part / max(kg, 1e-9) for part in sums)
    return x, y, z


def _verdict(clashes: list[Clash]) -> str:
    if not clashes:
        return "Everything fits, with room for air and cables."
    missing = next((c for c in clashes if c.code == "missing"), None)
    if missing is not None:
        return f"{missing.text} {missing.remedy}"
    return f"{len(clashes)} thing{'s' if len(clashes) > 1 else ''} to move: {clashes[0].text}"
