"""What sits on the outside: which face, where, what hole, and whether there is room behind.

Faces are looked at from outside; a point on one is measured from its lower left corner [mm].
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import combinations
from math import hypot
from typing import Literal

from oddkettle.core.construction.enclosure.bodies import Enclosure
from oddkettle.core.construction.enclosure.standing import Standing
from oddkettle.core.construction.wiring.circuits import INLETS, Board
from oddkettle.core.construction.wiring.connectors import CONNECTORS

FaceName = Literal["front", "back", "left", "right"]
FACES: tuple[FaceName, ...] = ("front", "left", "right", "back")
"""In the order in which they are filled."""
Kind = Literal["outlet", "inlet", "meter", "switch", "breaker", "gland", "vent"]

EDGE_MM = 12.0
"""From a flange to the face's edge, so that the wall's frame is missed [judgement]."""
BETWEEN_MM = 8.0
"""Between two flanges, for fingers and nuts [judgement]."""
KEYED_APART_MM = 60.0
"""Between the centres of an unregulated inlet and an outlet [judgement]."""
ROUNDED_MM = 0.2
"""What two places may lose together when each is told to a tenth of a millimetre."""
ROUND_METER = (52.0, 62.0, 40.0)
MAINS_OUTLET = (43.0, 60.0, 45.0)
ISOLATOR = (44.0, 70.0, 75.0)
BREAKER = (16.0, 34.0, 55.0)
VENT = (60.0, 75.0, 15.0)
"""Hole, flange and depth [mm]: the part's own sheet first."""


@dataclass(frozen=True)
class Fitting:
    """Something that passes a wall: hole and flange diameters, and depth behind [mm]."""

    key: str
    name: str
    kind: Kind
    hole_mm: float
    flange_mm: float
    depth_mm: float
    circuit: int | None = None


@dataclass(frozen=True)
class Mounted:
    """A fitting on a face, its centre from the lower left corner; `pinned` by the user."""

    fitting: Fitting
    face: FaceName
    x_mm: float
    y_mm: float
    pinned: bool = False


@dataclass(frozen=True)
class FaceFault:
    """What does not go on a face, and what would."""

    face: FaceName | None
    items: tuple[str, ...]
    text: str
    remedy: str


@dataclass(frozen=True)
class FacePlan:
    """All faces with what is on them: outer sizes [mm] by face."""

    sizes: dict[FaceName, tuple[float, float]]
    mounted: tuple[Mounted, ...]
    faults: tuple[FaceFault, ...]


def face_sizes(enclosure: Enclosure) -> dict[FaceName, tuple[float, float]]:
    """Width and height of each face from outside [mm]."""
    long = enclosure.length_mm + 2 * enclosure.wall_mm
    short = enclosure.width_mm + 2 * enclosure.wall_mm
    high = enclosure.height_mm + 2 * enclosure.wall_mm
    return {
        "front": (long, high),
        "back": (long, high),
        "left": (short, high),
        "right": (short, high),
    }


def fittings_of(board: Board, mains: int, *, vents: int, ready: bool) -> tuple[Fitting, ...]:
    """Everything that passes a wall of this box. A ready-made unit is not drilled."""
    if ready:
        return ()
    return tuple(_fittings(board, mains, vents))


def _fittings(board: Board, mains: int, vents: int) -> Iterator[Fitting]:
    if board.wiring.shunt:
        yield Fitting("meter", "Monitor", "meter", *ROUND_METER)
    elif board.wiring.voltmeter:
        yield Fitting("meter", "Voltmeter", "meter", *ROUND_METER)
    if board.of("battery") is not None:
        yield Fitting("isolator", "Isolator", "switch", *ISOLATOR, circuit=1)
    for c in board.circuits:
        part = CONNECTORS[c.connector]
        inlet = c.need.role in INLETS or c.need.role == "second"
        if part.hole_mm:
            kind: Kind = "inlet" if inlet else "outlet"
            # The two poles of a panel's pair pass the wall by themselves.
            poles = (("", " +"), ("-minus", " -")) if c.connector == "panel_pair" else (("", ""),)
            for tail, sign in poles:
                yield Fitting(
                    f"plug-{c.key}{tail}",
                    f"{c.need.name}{sign}",
                    kind,
                    part.hole_mm,
                    part.flange_mm,
                    part.depth_mm,
                    c.number,
                )
        if c.key == "inverter":
            for outlet in board.wiring.outlets:
                if outlet.mains:
                    yield Fitting(f"mains-{outlet.key}", outlet.name, "outlet", *MAINS_OUTLET)
        if c.protection == "breaker":
            yield Fitting(
                f"breaker-{c.key}", f"Breaker, {c.need.name}", "breaker", *BREAKER, circuit=c.number
            )
    gland = CONNECTORS["gland"]
    for n in range(1, mains + 1):
        yield Fitting(
            f"mains-{n}", "Mains lead", "gland", gland.hole_mm, gland.flange_mm, gland.depth_mm
        )
    for n in range(1, vents + 1):
        tail, word = ("", "") if n == 1 else (f"-{n}", f" {n}")
        yield Fitting(f"vent-low{tail}", f"Vent, low{word}", "vent", *VENT)
        yield Fitting(f"vent-high{tail}", f"Vent, high{word}", "vent", *VENT)


HOME: dict[Kind, FaceName] = {
    "outlet": "front",
    "meter": "front",
    "switch": "front",
    "breaker": "left",
    "inlet": "left",
    "gland": "right",
    "vent": "right",
}


def plan_faces(
    enclosure: Enclosure,
    fittings: tuple[Fitting, ...],
    pinned: tuple[Mounted, ...],
    standing: tuple[Standing, ...],
) -> FacePlan:
    """Put every fitting that is not pinned on its usual face, row by row from the top."""
    sizes = face_sizes(enclosure)
    mounted = list(pinned)
    there = {m.fitting.key for m in pinned}
    left: list[Fitting] = []
    for fitting in sorted(fittings, key=lambda f: (f.kind == "vent", -f.flange_mm)):
        if fitting.key in there:
            continue
        spot = _spot(enclosure, fitting, sizes, mounted, standing)
        if spot is None:
            left.append(fitting)
        else:
            mounted.append(spot)
    faults = [*_no_room(sizes, fittings, left), *_faults(enclosure, sizes, mounted, standing)]
    order = {fitting.key: n for n, fitting in enumerate(fittings)}
    mounted = [replace(m, x_mm=round(m.x_mm, 1), y_mm=round(m.y_mm, 1)) for m in mounted]
    mounted.sort(key=lambda m: order.get(m.fitting.key, 0))
    return FacePlan(sizes, tuple(mounted), tuple(faults))


def _spot(
    enclosure: Enclosure,
    fitting: Fitting,
    sizes: dict[FaceName, tuple[float, float]],
    mounted: list[Mounted],
    standing: tuple[Standing, ...],
) -> Mounted | None:
    """The first place with room before and behind, on the usual face, then on the others."""
    home = HOME[fitting.kind]
    for face in (home, *(f for f in FACES if f != home)):
        width, height = sizes[face]
        reach = fitting.flange_mm / 2 + EDGE_MM
        on = [m for m in mounted if m.face == face]
        for y in _rows(fitting, height, reach, on):
            for x in _columns(fitting, width, reach, on):
                # Not rounded yet: row upon row would lose what one more row needs.
                spot = Mounted(fitting, face, x, y)
                clear = not any(_too_close(spot, m) for m in on)
                if clear and behind_mm(enclosure, spot, standing) >= fitting.depth_mm:
                    return spot
    return None


def _rows(fitting: Fitting, height: float, reach: float, on: list[Mounted]) -> list[float]:
    """Candidate heights: under the lid, then just below what is there; the low vent from below."""
    if height < 2 * reach:
        return []
    rows = {height - reach, reach}
    for m in on:
        rows.add(m.y_mm)
        rows.add(m.y_mm - (m.fitting.flange_mm + fitting.flange_mm) / 2 - BETWEEN_MM)
    inside = [y for y in rows if reach - 1e-6 <= y <= height - reach + 1e-6]
    return sorted(inside, reverse=not fitting.key.startswith("vent-low"))


def _columns(fitting: Fitting, width: float, reach: float, on: list[Mounted]) -> list[float]:
    if width < 2 * reach:
        return []
    columns = {reach, width - reach}
    for m in on:
        apart = (m.fitting.flange_mm + fitting.flange_mm) / 2 + BETWEEN_MM
        columns.add(m.x_mm + apart)
        if _keyed(m.fitting, fitting):
            columns.add(m.x_mm + max(apart, KEYED_APART_MM))
    return sorted(x for x in columns if reach - 1e-6 <= x <= width - reach + 1e-6)


def _keyed(a: Fitting, b: Fitting) -> bool:
    """Whether two fittings must be kept apart: an inlet and an outlet."""
    return {a.kind, b.kind} == {"inlet", "outlet"}


def _apart(a: Mounted, b: Mounted) -> float:
    return hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm)


def _wanted(a: Mounted, b: Mounted) -> float:
    wanted = (a.fitting.flange_mm + b.fitting.flange_mm) / 2 + BETWEEN_MM
    return max(wanted, KEYED_APART_MM) if _keyed(a.fitting, b.fitting) else wanted


def _too_close(a: Mounted, b: Mounted) -> bool:
    return _apart(a, b) < _wanted(a, b) - 1e-6


def behind_mm(enclosure: Enclosure, spot: Mounted, standing: tuple[Standing, ...]) -> float:
    """Free depth behind a fitting, from the wall's outside to what stands in its way [mm]."""
    wall, radius = enclosure.wall_mm, spot.fitting.flange_mm / 2
    up = (spot.y_mm - wall - radius, spot.y_mm - wall + radius)
    side = spot.x_mm - wall
    length, width = enclosure.length_mm, enclosure.width_mm
    if spot.face in {"back", "left"}:
        # Seen from outside these run the other way.
        side = (length if spot.face == "back" else width) - side
    along = (side - radius, side + radius)
    free = width if spot.face in {"front", "back"} else length
    for s in standing:
        x, y, z = s.span
        across, deep = (x, y) if spot.face in {"front", "back"} else (y, x)
        if min(across[1], along[1]) <= max(across[0], along[0]):
            continue
        if min(z[1], up[1]) <= max(z[0], up[0]):
            continue
        near = deep[0] if spot.face in {"front", "left"} else free_side(spot.face, enclosure, deep)
        free = min(free, near)
    return max(free, 0.0) + wall


def free_side(face: FaceName, enclosure: Enclosure, deep: tuple[float, float]) -> float:
    """Distance from the far wall (back, right) to a body [mm]."""
    whole = enclosure.width_mm if face == "back" else enclosure.length_mm
    return whole - deep[1]


def most_on(size: tuple[float, float], flange_mm: float) -> int:
    """How many fittings of one flange a face takes in rows and columns."""
    pitch = flange_mm + BETWEEN_MM

    def along(side: float) -> int:
        room = side - 2 * EDGE_MM - flange_mm
        return 0 if room < 0 else int(room // pitch) + 1

    return along(size[0]) * along(size[1])


def _no_room(
    sizes: dict[FaceName, tuple[float, float]],
    fittings: tuple[Fitting, ...],
    left: list[Fitting],
) -> Iterator[FaceFault]:
    if not left:
        return
    widest = max(f.flange_mm for f in left)
    front = sizes["front"]
    takes = most_on(front, widest)
    yield FaceFault(
        None,
        tuple(f.key for f in left),
        f"{len(left)} of {len(fittings)} fittings find no room: the front, {front[0]:.0f} x "
        f"{front[1]:.0f} mm, takes {takes} of {widest:.0f} mm flange at most, and the other faces "
        "are full or have parts behind them.",
        "Take a larger box, move parts away from the walls, or let several appliances share an "
        "outlet.",
    )


def _faults(
    enclosure: Enclosure,
    sizes: dict[FaceName, tuple[float, float]],
    mounted: list[Mounted],
    standing: tuple[Standing, ...],
) -> Iterator[FaceFault]:
    for m in mounted:
        width, height = sizes[m.face]
        reach = m.fitting.flange_mm / 2 + EDGE_MM
        over = max(reach - m.x_mm, m.x_mm + reach - width, reach - m.y_mm, m.y_mm + reach - height)
        if over > 0.5:
            yield FaceFault(
                m.face,
                (m.fitting.key,),
                f"{m.fitting.name} is {over:.0f} mm too close to the edge of the {m.face}.",
                f"Keep its centre {reach:.0f} mm from every edge.",
            )
        behind = behind_mm(enclosure, m, standing)
        if behind < m.fitting.depth_mm - 0.5:
            yield FaceFault(
                m.face,
                (m.fitting.key,),
                f"{m.fitting.name} reaches {m.fitting.depth_mm:.0f} mm in; behind it are "
                f"{behind:.0f} mm.",
                f"Move it, or what stands behind it {m.fitting.depth_mm - behind:.0f} mm inwards.",
            )
    for a, b in combinations(mounted, 2):
        if a.face != b.face or _apart(a, b) >= _wanted(a, b) - ROUNDED_MM:
            continue
        keyed = _keyed(a.fitting, b.fitting)
        why = "an inlet and an outlet are kept apart" if keyed else "flanges and fingers need room"
        yield FaceFault(
            a.face,
            (a.fitting.key, b.fitting.key),
            f"{a.fitting.name} and {b.fitting.name} are {_apart(a, b):.0f} mm apart; {why}.",
            f"At least {_wanted(a, b):.0f} mm between their centres.",
        )


def with_hole(fitting: Fitting, hole_mm: float | None) -> Fitting:
    """The fitting with the hole that its own sheet asks for; its flange grows along."""
    if hole_mm is None:
        return fitting
    flange = max(fitting.flange_mm, hole_mm + (fitting.flange_mm - fitting.hole_mm))
    return replace(fitting, hole_mm=hole_mm, flange_mm=flange)
