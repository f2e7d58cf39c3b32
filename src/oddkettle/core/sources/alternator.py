"""The vehicle's alternator and the cable that leads from it: what both kinds of charging share."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.caution import Caution
from oddkettle.core.sources.source_series import Knob, SourceKind
from oddkettle.core.trip.grid import Block, Grid, block_span
from oddkettle.core.units.conversion import cable_ohm, ohms_from_milliohms

Floats = NDArray[np.float64]

KIND = SourceKind(
    key="vehicle",
    place=2,
    name="Vehicle",
    hours_of="drives",
    how_made="What alternator, feed cable and charger pass while the engine runs.",
    spare="not needed",
    idle="No drive on this trip, so it never starts.",
    passes="the cable, the fuse or the alternator passes as little as",
    block="drive",
    design="dcdc_a",
    fumes=True,
    knob=Knob("Drive", "driving", "The box has no charger on a vehicle."),
    cautions=(
        Caution(
            "vehicle",
            "Both ends of the feed are batteries",
            "Fuse the cable at each end, for the cable's own size, and keep it off sharp and hot "
            "metal. Never charge with the engine running in a closed space. Your local code comes "
            "first.",
            "vehicle wiring practice; exhaust gas kills [textbook]",
        ),
    ),
)


@dataclass(frozen=True)
class Alternator:
    """`rated_a` at speed, `idle_share` of it at idle, `own_loads_a` what the vehicle takes.

    A conventional one holds `volts`. A smart one falls to `smart_v` once the starter battery is
    full, `smart_after_min` minutes after the start [textbook].
    """

    rated_a: float = 90.0
    idle_share: float = 0.4
    own_loads_a: float = 20.0
    volts: float = 14.2
    smart: bool = False
    smart_v: float = 12.5
    smart_after_min: float = 20.0


@dataclass(frozen=True)
class Feed:
    """The cable from the starter battery to the charger: one way [m], copper [mm2]."""

    length_m: float = 4.0
    area_mm2: float = 10.0
    connectors_mohm: float = 4.0

    @property
    def ohm(self) -> float:
        """There and back, with connectors [ohm]."""
        return cable_ohm(self.length_m, self.area_mm2) + ohms_from_milliohms(self.connectors_mohm)


@dataclass(frozen=True)
class Engine:
    """When the engine runs and what it gives; all (steps,).

    on : share of the step in which a charger may work (after its delay)
    volts : mean alternator voltage while on [V]
    spare_a : what the alternator has left for the box while on [A]
    """

    on: Floats
    volts: Floats
    spare_a: Floats


def engine_series(
    grid: Grid, blocks: tuple[Block, ...], alternator: Alternator, delay_min: float
) -> Engine:
    """Lay the drive blocks on the grid for a charger that waits `delay_min` after each start."""
    on, volts, spare = np.zeros(grid.steps), np.zeros(grid.steps), np.zeros(grid.steps)
    for index, block in enumerate(blocks):
        if block.kind != "drive":
            continue
        start, end = block_span(grid, block, index)
        awake = start + delay_min / grid.step_min
        turns = start + alternator.smart_after_min / grid.step_min if alternator.smart else end
        share = alternator.idle_share if block.idling else 1.0
        left_a = max(alternator.rated_a * share - alternator.own_loads_a, 0.0)
        for first, last, level in (
            (awake, min(max(turns, awake), end), alternator.volts),
            (max(turns, awake), end, alternator.smart_v),
        ):
            part = _inside(grid.steps, first, last)
            on += part
            volts += part * level
            spare += part * left_a
    # Two drives that overlap are one engine: means are over both, its time counts once.
    per_on = np.divide(1.0, on, out=np.zeros_like(on), where=on > 0.0)
    return Engine(np.minimum(on, 1.0), volts * per_on, spare * per_on)


def _inside(steps: int, first: float, last: float) -> Floats:
    """(steps,) share of each step between two fractional steps."""
    edges = np.arange(steps)
    inside = np.minimum(edges + 1, last) - np.maximum(edges, first)
    return np.asarray(np.clip(inside, 0.0, 1.0), np.float64)
