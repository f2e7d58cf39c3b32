"""What an input of a ready-made unit leaves of a source that is plugged into it."""

from __future__ import annotations

from dataclasses import replace

from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.solar import SunInput
from oddkettle.core.sources.source_series import ChargeSource


def through_input(
    source: ChargeSource, limit_w: float | None, limit_v: float | None, system_v: float
) -> ChargeSource:
    """The source behind an input that takes `limit_w` [W] and bears `limit_v` [V]; None: no limit.

    A charger in a unit is the unit's own: the limit is taken as what goes into it.
    """
    if isinstance(source, SunInput):
        controller = source.controller
        return replace(
            source,
            controller=replace(
                controller,
                input_limit_w=_least(controller.input_limit_w, limit_w),
                input_limit_v=_least(controller.input_limit_v, limit_v),
            ),
        )
    if isinstance(source, MainsCharger):
        return replace(source, supply_w=_least(source.supply_w, limit_w))
    if isinstance(source, DcDc) and limit_w is not None:
        passes_a = limit_w * source.efficiency / system_v
        # At half current its limit is halved once more: what it gives is what the input passes.
        most_a = passes_a / (0.5 if source.half_current else 1.0)
        return replace(source, limit_a=min(source.limit_a, most_a))
    return source


def _least(own: float | None, limit: float | None) -> float | None:
    known = [value for value in (own, limit) if value is not None]
    return min(known, default=None)
