"""A box worked out from end to end: circuits, drawing, parts, fit, faces, checks, fault finder."""

from __future__ import annotations

from dataclasses import dataclass, replace

from oddkettle.core.construction.enclosure.bodies import Body, Enclosure, bodies_of, empty_kg
from oddkettle.core.construction.enclosure.face_plan import (
    FaceName,
    FacePlan,
    Mounted,
    fittings_of,
    plan_faces,
    with_hole,
)
from oddkettle.core.construction.enclosure.layout import fit, place_all, proposed_case, shelves_of
from oddkettle.core.construction.enclosure.standing import Fit, Standing
from oddkettle.core.construction.parts import catalogue, prices
from oddkettle.core.construction.parts.lines import BuiltOf, Known, Line, Totals, totals_of
from oddkettle.core.construction.parts.parts_list import list_parts
from oddkettle.core.construction.procedures.check import Checklist
from oddkettle.core.construction.procedures.checklists import checklists
from oddkettle.core.construction.procedures.expected_readings import under_a_clear_sky
from oddkettle.core.construction.procedures.fault import Symptom
from oddkettle.core.construction.procedures.fault_finder import symptoms
from oddkettle.core.construction.procedures.ready_made import UnitPart, unit_booklet
from oddkettle.core.construction.schematic.drawing import draw_schematic
from oddkettle.core.construction.schematic.figures import Sheet
from oddkettle.core.construction.settings import DeviceSettings, settings_sheet, to_tick
from oddkettle.core.construction.ventilation import airing_of
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.simulation.run import Run


@dataclass(frozen=True)
class Shell:
    """The box or case: sizes are inner [mm], None for the tool's proposal.

    `vented` where it has the vents that are proposed; `battery_apart` where the bank stands in a
    box of its own; `grommets` where cables pass its walls in grommets or glands.
    """

    length_mm: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    wall_mm: float = 12.0
    material: str = "wood"
    empty_kg: float | None = None
    vented: bool = True
    battery_apart: bool = False
    grommets: bool = True


@dataclass(frozen=True)
class Place:
    """Where the user put a part."""

    part: str
    x_mm: float
    y_mm: float
    z_mm: float
    turned: bool


@dataclass(frozen=True)
class Mount:
    """Where the user put a fitting."""

    item: str
    face: FaceName
    x_mm: float
    y_mm: float
    hole_mm: float | None


@dataclass(frozen=True)
class OnSale:
    """What is known of a unit on sale; None for what is usual."""

    name: str = "A ready-made unit"
    wh: float | None = None
    euro: float | None = None
    kg: float | None = None


@dataclass(frozen=True)
class OwnBuild:
    """What its owner says of the building, circuits apart. `waste` is a share of cable, 0..1."""

    waste: float = 0.1
    known: tuple[Known, ...] = ()
    shell: Shell = Shell()
    placed: tuple[Place, ...] = ()
    mounted: tuple[Mount, ...] = ()
    compared: OnSale = OnSale()


@dataclass(frozen=True)
class ComparedUnit:
    """A ready-made unit to compare with [Wh of its label, euro, kg]."""

    name: str
    wh: float
    euro_low: float
    euro_high: float
    kg: float


@dataclass(frozen=True)
class Layout:
    """What goes into the box and where. `fits` and `faces` are None for a ready-made unit."""

    lines: tuple[Line, ...]
    totals: Totals
    enclosure: Enclosure
    proposed: bool
    fits: Fit | None
    faces: FacePlan | None


@dataclass(frozen=True)
class Building(Layout):
    """Everything about building one box."""

    run: Run
    board: Board
    schematic: tuple[Sheet, ...]
    settings: tuple[DeviceSettings, ...]
    lists: tuple[Checklist, ...]
    symptoms: tuple[Symptom, ...]
    unit: tuple[UnitPart, ...]
    usable_wh: float
    ready_made: ComparedUnit


def lay_out(run: Run, board: Board, own_build: OwnBuild) -> Layout:
    """Parts, box and places: all that changes while something is moved."""
    ready = run.case.unit is not None
    shell = own_build.shell
    built = BuiltOf(shell.material, 0.0, own_build.waste, shell.battery_apart)
    bodies = bodies_of(list_parts(run, board, built, own_build.known))
    enclosure, proposed = _enclosure(shell, bodies)
    pinned = _pinned(bodies, own_build)
    shelves = () if ready else shelves_of(place_all(enclosure, bodies, pinned)[0])
    vents = 0 if ready else vents_of(run, shell, bodies)
    built = replace(built, empty_kg=enclosure.empty_kg, shelves=len(shelves), vents=vents)
    lines = list_parts(run, board, built, own_build.known)
    totals = totals_of(lines)
    fits = None if ready else fit(enclosure, bodies, pinned, totals.carried_kg)
    return Layout(
        lines=lines,
        totals=totals,
        enclosure=enclosure,
        proposed=proposed,
        fits=fits,
        faces=None if fits is None else _faces(run, board, enclosure, own_build, fits),
    )


def build_up(run: Run, own_build: OwnBuild, title: str, board: Board | None = None) -> Building:
    """Work a run's box out from end to end; `board`, its circuits, where they are known."""
    board = board or board_of(run)
    clear = under_a_clear_sky(run)
    settings = settings_sheet(run)
    return Building(
        **vars(lay_out(run, board, own_build)),
        run=run,
        board=board,
        schematic=draw_schematic(run, board, title),
        settings=settings,
        lists=checklists(run, board, clear, to_tick(settings)),
        symptoms=symptoms(run, board, clear),
        unit=unit_booklet(run, board, clear),
        usable_wh=run.case.usable_ah * run.case.bank.nominal_v,
        ready_made=_compared(run, own_build.compared),
    )


def _compared(run: Run, on_sale: OnSale) -> ComparedUnit:
    """The unit that the box is set against: as it is sold, the rest as usual for its size."""
    wh = run.case.bank.nominal_wh if on_sale.wh is None else on_sale.wh
    usual = prices.READY_MADE_PER_KWH * wh / 1000
    low, high = catalogue.PRICE_LOW * usual, catalogue.PRICE_HIGH * usual
    if on_sale.euro is not None:
        low = high = on_sale.euro
    kg = prices.READY_MADE_KG_PER_KWH * wh / 1000 if on_sale.kg is None else on_sale.kg
    return ComparedUnit(on_sale.name, wh, low, high, kg)


def vents_of(run: Run, shell: Shell, bodies: tuple[Body, ...]) -> int:
    """Vents low down, and as many high: for gas, and for what gets hot."""
    if not shell.vented:
        return 0
    banks = () if shell.battery_apart else (run.case.bank,)
    hot = any(body.hot for body in bodies)
    return max(airing_of(*banks).vents, 1 if hot else 0)


def _enclosure(shell: Shell, bodies: tuple[Body, ...]) -> tuple[Enclosure, bool]:
    """(the box, whether the tool proposed it): a side that is not given is the proposal's."""
    found = proposed_case(bodies, shell.material, shell.wall_mm, shell.empty_kg)
    if shell.length_mm is None and shell.width_mm is None and shell.height_mm is None:
        return found, True
    size = (
        shell.length_mm or found.length_mm,
        shell.width_mm or found.width_mm,
        shell.height_mm or found.height_mm,
    )
    kg = empty_kg(size, shell.material, shell.wall_mm, shell.empty_kg)
    return Enclosure(*size, shell.wall_mm, shell.material, kg), False


def _pinned(bodies: tuple[Body, ...], own_build: OwnBuild) -> tuple[Standing, ...]:
    places = {place.part: place for place in own_build.placed}
    return tuple(
        Standing(body, place.x_mm, place.y_mm, place.z_mm, place.turned, pinned=True)
        for body in bodies
        if (place := places.get(body.key)) is not None
    )


def _faces(
    run: Run, board: Board, enclosure: Enclosure, own_build: OwnBuild, fits: Fit
) -> FacePlan:
    mounts = {mount.item: mount for mount in own_build.mounted}
    vents = vents_of(run, own_build.shell, tuple(s.body for s in fits.standing))
    fittings = tuple(
        with_hole(f, mounts[f.key].hole_mm) if f.key in mounts else f
        for f in fittings_of(board, len(run.case.mains), vents=vents, ready=False)
    )
    pinned = tuple(
        Mounted(f, mounts[f.key].face, mounts[f.key].x_mm, mounts[f.key].y_mm, pinned=True)
        for f in fittings
        if f.key in mounts
    )
    return plan_faces(enclosure, fittings, pinned, fits.standing)
