"""One run: a plan's parts and days become forcing, go through the loop, and come out as series."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core import kernel
from oddkettle.core.bank import Bank, BankTables, bank_tables
from oddkettle.core.loads import Appliance, DailyDraw, Inverter, daily_draws, demand_w
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.solar import SunInput, panel_series_w
from oddkettle.core.sources.vehicle import DcDc
from oddkettle.core.trip import Block, Grid, Site, lay_grid, shares_of_steps, zone_named
from oddkettle.core.units import CLASS_V

Floats = NDArray[np.float64]
SourceKind = Literal["sun", "vehicle", "mains"]


@dataclass(frozen=True)
class Profile:
    """Charging set points [V at 12 V class], for every charger of the box."""

    absorption_v: float
    float_v: float


@dataclass(frozen=True)
class Case:
    """All that one run needs. `clearness` has one value a day; `soc0` and `floor` are 0..1."""

    bank: Bank
    profile: Profile
    sun: tuple[SunInput, ...]
    vehicle: DcDc | None
    mains: MainsCharger | None
    inverter: Inverter | None
    appliances: tuple[Appliance, ...]
    site: Site
    first_day: date
    clearness: tuple[float, ...]
    blocks: tuple[Block, ...]
    soc0: float
    floor: float
    ambient_c: float
    step_min: int


@dataclass(frozen=True)
class Source:
    """One source as it was run.

    raw_w : (steps,) power at the source's own side, before its charger [W]
    """

    kind: SourceKind
    key: str
    name: str
    efficiency: float
    limit_a: float
    raw_w: Floats


@dataclass(frozen=True)
class Run:
    """A finished run: its grid, what was offered and asked, and the track through it."""

    case: Case
    grid: Grid
    tables: BankTables
    sources: tuple[Source, ...]
    offers: kernel.Sources
    draws: tuple[DailyDraw, ...]
    asked_w: Floats
    track: kernel.Track


def clearness_by_step(grid: Grid, clearness: tuple[float, ...]) -> Floats:
    """(steps,) the day's clearness, changing at local midnight when the sun is down."""
    return np.repeat(np.asarray(clearness, np.float64), np.diff(grid.day_starts))


def gather_sources(case: Case, grid: Grid) -> tuple[tuple[Source, ...], Floats, Floats]:
    """Sources in the order in which they are let in (sun, vehicle, mains), with their offers.

    Returns the sources, offered power [W] and current limit [A], both (sources, steps).
    """
    shares = shares_of_steps(grid, case.blocks)
    driving = shares["drive"]
    panel_out = shares["panel_out"] * (1.0 - driving)
    clearness = clearness_by_step(grid, case.clearness)
    found: list[Source] = []
    offer: list[Floats] = []
    limit: list[Floats] = []
    for array in case.sun:
        raw = np.zeros(grid.steps)
        for panel in array.panels:
            series = panel_series_w(panel, case.site, grid, clearness, case.ambient_c)
            raw += series * panel_out if panel.portable else series
        amps, efficiency = array.controller.limit_a, array.controller.efficiency
        found.append(Source("sun", array.key, array.name, efficiency, amps, raw))
        offer.append(raw * efficiency)
        limit.append(np.where(raw > 0.0, amps, 0.0))
    kinds: tuple[tuple[SourceKind, str, DcDc | MainsCharger | None, Floats], ...] = (
        ("vehicle", "DC-DC charger", case.vehicle, driving),
        ("mains", "Mains charger", case.mains, shares["hookup"]),
    )
    for kind, name, charger, on in kinds:
        if charger is None:
            continue
        found.append(
            Source(kind, kind, name, charger.efficiency, charger.limit_a, np.zeros(grid.steps))
        )
        # Part of a step at full current is the whole step at part current.
        offer.append(np.full(grid.steps, kernel.UNLIMITED_W))
        limit.append(charger.limit_a * on)
    shape = (len(found), grid.steps)
    return (
        tuple(found),
        np.array(offer).reshape(shape),
        np.array(limit).reshape(shape),
    )


def simulate(case: Case) -> Run:
    """Run one case from start to end. Raises PlanFault for a plan that cannot be."""
    grid = lay_grid(
        case.first_day, len(case.clearness), zone_named(case.site.timezone), case.step_min
    )
    tables = bank_tables(case.bank, grid.step_h)
    draws = daily_draws(case.appliances, case.inverter, grid.step_min)
    asked = demand_w(draws, grid)
    sources, offer_w, limit_a = gather_sources(case, grid)
    count = len(sources)
    scale = case.bank.system_v / CLASS_V
    chemistry = case.bank.chemistry
    settings = (
        case.profile.absorption_v * scale,
        case.profile.float_v * scale,
        chemistry.tail_c * case.bank.capacity_ah,
        chemistry.absorption_hours / grid.step_h,
    )
    offers = kernel.Sources(offer_w, limit_a, np.tile(settings, (count, 1)))
    track = kernel.drive(tables, offers, asked.sum(axis=0), case.soc0)
    return Run(case, grid, tables, sources, offers, draws, asked, track)
