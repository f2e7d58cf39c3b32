"""Every source of a box over a trip: what it could give, and what holds it back before the bus."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.records import CHARGER, OFFER, lay
from oddkettle.core.loads.demand import DrawSeries
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.kernel_inputs import Sources
from oddkettle.core.simulation.scenarios import Scenario
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.coupling import IN_USE_W, in_order, selected
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.source_series import SourceContext, SourceSeries
from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.trip.grid import Grid
from oddkettle.core.units.conversion import CLASS_V, HOURS_PER_DAY

Floats = NDArray[np.float64]


def lay_sources(
    case: Case,
    grid: Grid,
    shares: dict[BlockKind, Floats],
    quiet: Floats,
    scenario: Scenario,
    draws: tuple[DrawSeries, ...],
) -> tuple[SourceSeries, ...]:
    """Sources in the order in which they are let in, each with what is left of its offer."""
    context = SourceContext(
        grid=grid,
        sites=case.sites,
        blocks=case.blocks,
        shares=shares,
        air_c=scenario.air_c,
        clearness=scenario.clearness,
        sun_share=scenario.sun,
        nominal_v=case.bank.nominal_v,
        standby=case.standby,
        sources=case.sources,
        coldest_c=case.coldest_c,
    )
    found = [source.forcing(context) for source in case.sources]
    places = in_order(tuple(source.key for source in found), case.order)
    ordered = [found[j] for j in places]
    return _barred(case, [_given(source, scenario) for source in ordered], quiet, draws)


def _given(source: SourceSeries, scenario: Scenario) -> SourceSeries:
    """What a source gives where its blocks stray from the plan: less, or more."""
    block = SOURCE_KINDS[source.kind].block
    share = None if block is None else scenario.given.get(block)
    if share is None:
        return source
    # A relay's power is a mark that it is held closed.
    power = source.offer_w if source.feed_s > 0.0 else source.offer_w * share
    return replace(source, offer_w=power, limit_a=source.limit_a * share)


def row_keys(case: Case) -> tuple[str, ...]:
    """Keys of the sources in the rows of the loop: relays first, then as they are let in."""
    keys = tuple(source.key for source in case.sources)
    ordered = [keys[j] for j in in_order(keys, case.order)]
    relays = {source.key for source in case.sources if isinstance(source, Relay)}
    return tuple(sorted(ordered, key=lambda key: key not in relays))


def _barred(
    case: Case, sources: list[SourceSeries], quiet: Floats, draws: tuple[DrawSeries, ...]
) -> tuple[SourceSeries, ...]:
    """Switch off what quiet hours, a selector or use of a ready-made unit keep away."""
    if not sources:
        return ()
    open_share = np.stack([1.0 - quiet if s.noisy else np.ones_like(quiet) for s in sources])
    if case.joining.kind == "selector":
        nominal_v = case.bank.nominal_v
        watts = np.stack(
            [
                np.minimum(s.offer_w, s.limit_a * nominal_v) * o
                for s, o in zip(sources, open_share, strict=True)
            ]
        )
        turns = [j for j, s in enumerate(sources) if case.joining.takes_turns(s.key)]
        open_share[turns] *= selected(watts[turns], case.joining)
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
    case: Case, sources: tuple[SourceSeries, ...], step_h: float
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
            second_v=(profile.second_v or profile.absorption_v) * scale,
            second_steps=profile.second_hours / step_h,
            refresh_steps=profile.refresh_days * HOURS_PER_DAY / step_h,
        )
    return Sources(offers, chargers, float(min(unit_a, joint_a, 1e12))), rows
