"""Every source of a box over a trip: what it could give, and what holds it back before the bus."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.records import CHARGER, OFFER, lay
from oddkettle.core.loads.demand import DrawSeries
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.kernel_inputs import UNLIMITED_W, Sources
from oddkettle.core.simulation.scenarios import Scenario
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import IN_USE_W, in_order, selected
from oddkettle.core.sources.mains import MainsCharger, mains_on
from oddkettle.core.sources.solar import (
    ArrayVolts,
    SunInput,
    array_volts,
    light_series,
    lit_share,
    offer_of,
)
from oddkettle.core.sources.vehicle import (
    RELAY_CLOSES_V,
    RELAY_OPENS_V,
    Relay,
    VehicleSource,
    engine_series,
    feed_power_w,
    heat_share,
)
from oddkettle.core.trip import BlockKind, Grid
from oddkettle.core.units import CLASS_V

Floats = NDArray[np.float64]
SourceKind = Literal["sun", "vehicle", "mains"]


@dataclass(frozen=True)
class Source:
    """One source as it was run. Series are (steps,).

    could_w, could_a : what it could give at its output, its own rating not counted for the sun
    offer_w, limit_a : what it does offer to the bus: power [W] and largest current [A]
    barred : share of the step in which joining, quiet hours or use keep it off
    raw_w, wire_w : an array's power at its controller, and what its cable loses [W]
    source_v, feed_ohm, on : a vehicle's voltage [V], feed [ohm] and share of the step
    feed_s : a relay's conductance, 0 for chargers [S]
    pwm : its panel works at the battery's voltage
    rating_a : the number on its label [A]
    """

    kind: SourceKind
    key: str
    name: str
    efficiency: float
    rating_a: float
    could_w: Floats
    could_a: Floats
    offer_w: Floats
    limit_a: Floats
    on: Floats
    barred: Floats
    raw_w: Floats
    wire_w: Floats
    source_v: Floats
    feed_ohm: float = 0.0
    feed_s: float = 0.0
    pwm: bool = False
    noisy: bool = False
    profile: Profile | None = None
    volts: ArrayVolts | None = None


def lay_sources(
    case: Case,
    grid: Grid,
    shares: dict[BlockKind, Floats],
    quiet: Floats,
    scenario: Scenario,
    draws: tuple[DrawSeries, ...],
) -> tuple[Source, ...]:
    """Sources in the order in which they are let in, each with what is left of its offer."""
    found = [_sun(case, array, grid, shares, scenario) for array in case.sun]
    found += [_vehicle(case, source, grid, scenario.air_c) for source in case.vehicle]
    there = mains_on(shares["hookup"], shares["outage"], standby=case.standby)
    found += [_mains(charger, there) for charger in case.mains]
    places = in_order(tuple(source.key for source in found), case.order)
    ordered = [found[j] for j in places]
    return _barred(case, ordered, quiet, draws)


def row_keys(case: Case) -> tuple[str, ...]:
    """Keys of the sources in the rows of the loop: relays first, then as they are let in."""
    keys = (
        *(array.key for array in case.sun),
        *(source.key for source in case.vehicle),
        *(charger.key for charger in case.mains),
    )
    ordered = [keys[j] for j in in_order(keys, case.order)]
    relays = {source.key for source in case.vehicle if isinstance(source, Relay)}
    return tuple(sorted(ordered, key=lambda key: key not in relays))


def panels_out(array: SunInput, shares: dict[BlockKind, Floats]) -> tuple[Floats, ...]:
    """For each panel, (steps,) share of the step in which it is out in the light."""
    still = 1.0 - shares["drive"]
    return tuple(
        np.ones_like(still)
        if p.mount == "flat" and not p.portable
        else still * (shares["panel_out"] if p.portable else 1.0)
        for p in array.panels
    )


def _sun(
    case: Case, array: SunInput, grid: Grid, shares: dict[BlockKind, Floats], scenario: Scenario
) -> Source:
    air_c = scenario.air_c
    lights = tuple(
        light_series(p, case.sites, grid, scenario.clearness, air_c) for p in array.panels
    )
    works = panels_out(array, shares)
    bus_v = case.bank.nominal_v
    offer = offer_of(array, lights, works, lit_share(array, grid) * scenario.sun, bus_v)
    rating = array.controller.limit_a
    none = np.zeros(grid.steps)
    pwm = array.at_battery
    return Source(
        kind="sun",
        key=array.key,
        name=array.name,
        efficiency=1.0 if pwm else array.controller.efficiency,
        rating_a=rating,
        could_w=np.full(grid.steps, UNLIMITED_W) if pwm else offer.offer_w,
        could_a=offer.offer_a,
        offer_w=np.full(grid.steps, UNLIMITED_W) if pwm else offer.offer_w,
        limit_a=np.minimum(np.where(offer.raw_w > 0.0, rating, 0.0), offer.offer_a),
        on=(offer.raw_w > 0.0).astype(np.float64),
        barred=none,
        raw_w=offer.raw_w,
        wire_w=offer.wire_w,
        source_v=none,
        pwm=pwm,
        noisy=array.noisy,
        profile=array.profile,
        volts=array_volts(array, lights, air_c),
    )


def _vehicle(case: Case, source: VehicleSource, grid: Grid, air_c: Floats) -> Source:
    engine = engine_series(grid, case.blocks, source.alternator, source.delay_min)
    none = np.zeros(grid.steps)
    if isinstance(source, Relay):
        return _relay(source, engine.on, engine.volts, engine.spare_a, none)
    rating = source.limit_a * (0.5 if source.half_current else 1.0)
    could_a = rating * engine.on
    return Source(
        kind="vehicle",
        key=source.key,
        name=source.name,
        efficiency=source.efficiency,
        rating_a=rating,
        could_w=np.full(grid.steps, UNLIMITED_W),
        could_a=could_a,
        offer_w=engine.on * feed_power_w(source, engine),
        limit_a=could_a * heat_share(source, air_c),
        on=engine.on,
        barred=none,
        raw_w=none,
        wire_w=none,
        source_v=engine.volts,
        feed_ohm=source.feed.ohm,
        noisy=source.noisy,
        profile=source.profile,
    )


def _relay(source: Relay, on: Floats, volts: Floats, spare_a: Floats, none: Floats) -> Source:
    closes = RELAY_OPENS_V if source.alternator.smart else RELAY_CLOSES_V
    closed = on * ((volts >= closes) | source.forced)
    fuse = np.inf if source.fuse_a is None else source.fuse_a
    limit = np.minimum(spare_a, fuse) * closed
    siemens = 1.0 / max(source.feed.ohm, 1e-4)
    return Source(
        kind="vehicle",
        key=source.key,
        name=source.name,
        efficiency=1.0,
        rating_a=float(limit.max(initial=0.0)),
        could_w=np.full_like(none, UNLIMITED_W),
        could_a=limit,
        offer_w=np.where(source.forced, 1.0, 0.0) * np.ones_like(none),
        limit_a=limit,
        on=closed,
        barred=none,
        raw_w=none,
        wire_w=none,
        source_v=volts,
        feed_ohm=source.feed.ohm,
        feed_s=siemens,
        noisy=source.noisy,
        profile=source.profile,
    )


def _mains(charger: MainsCharger, there: Floats) -> Source:
    none = np.zeros_like(there)
    supply = UNLIMITED_W if charger.supply_w is None else charger.supply_w * charger.efficiency
    return Source(
        kind="mains",
        key=charger.key,
        name=charger.name,
        efficiency=charger.efficiency,
        rating_a=charger.limit_a,
        could_w=np.full_like(there, UNLIMITED_W),
        could_a=charger.limit_a * there,
        offer_w=np.full_like(there, UNLIMITED_W) if supply == UNLIMITED_W else supply * there,
        limit_a=charger.limit_a * there,
        on=there,
        barred=none,
        raw_w=none,
        wire_w=none,
        source_v=none,
        noisy=charger.noisy,
        profile=charger.profile,
    )


def _barred(
    case: Case, sources: list[Source], quiet: Floats, draws: tuple[DrawSeries, ...]
) -> tuple[Source, ...]:
    """Switch off what quiet hours, a selector or use of a ready-made unit keep away."""
    if not sources:
        return ()
    open_share = np.stack([1.0 - quiet if s.noisy else np.ones_like(quiet) for s in sources])
    if case.joining.kind == "selector":
        nominal_v = case.bank.nominal_v
        watts = np.stack(
            [np.minimum(s.offer_w, s.limit_a * nominal_v) * o
             for s, o in zip(sources, open_share, strict=True)]
        )  # fmt: skip
        open_share = open_share * selected(watts, case.joining)
    if case.unit is not None and not case.unit.charge_in_use and draws:
        used = sum(draw.asked_w for draw in draws if draw.plug_share > 0.0)
        open_share = open_share * (np.asarray(used) <= IN_USE_W)
    return tuple(
        replace(
            source,
            # Power as well as current, or a step that is only partly open would give all of it.
            offer_w=source.offer_w * is_open,
            limit_a=source.limit_a * is_open,
            barred=1.0 - is_open,
        )
        for source, is_open in zip(sources, open_share, strict=True)
    )


def loop_sources(
    case: Case, sources: tuple[Source, ...], step_h: float
) -> tuple[Sources, list[int]]:
    """The loop's arrays, relays first, and the place of each row among `sources`."""
    rows = sorted(range(len(sources)), key=lambda j: sources[j].feed_s == 0.0)
    steps = len(sources[0].on) if sources else 0
    offers = np.zeros((steps, len(sources)), OFFER)
    chargers = np.zeros(len(sources), CHARGER)
    scale = case.bank.system_v / CLASS_V
    chemistry, capacity = case.bank.chemistry, case.bank.capacity_ah
    unit_a = np.inf
    if case.unit is not None and case.unit.input_w is not None:
        unit_a = case.unit.input_w / case.bank.nominal_v
    joint_a = case.joining.limit_a if case.joining.kind == "combined" else np.inf
    for row, j in enumerate(rows):
        source = sources[j]
        profile = source.profile or case.profile
        member = case.joining.kind == "combined" and source.key in case.joining.members
        tail_c = chemistry.tail_c if profile.tail_c is None else profile.tail_c
        hours = (
            chemistry.absorption_hours
            if profile.absorption_hours is None
            else profile.absorption_hours
        )
        offers[:, row] = lay(
            OFFER, power_w=source.offer_w, limit_a=source.limit_a, emf_v=source.source_v
        )
        chargers[row] = lay(
            CHARGER,
            feed_s=source.feed_s,
            absorb_v=profile.absorption_v * scale,
            float_v=profile.float_v * scale,
            tail_a=tail_c * capacity,
            absorb_steps=hours / step_h,
            comp_v_per_k=(
                chemistry.compensation_v_per_k * case.bank.volts_scale * profile.compensated
            ),
            shared=float(member or np.isfinite(unit_a)),
        )
    return Sources(offers, chargers, float(min(unit_a, joint_a, 1e12))), rows
