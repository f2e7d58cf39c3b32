"""Charging from a vehicle: the alternator, the cable, and a DC-DC charger, relay or socket."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.trip import Block, Grid, block_span
from oddkettle.core.units import cable_ohm, ohms_from_milliohms

Floats = NDArray[np.float64]

SENSING_HYSTERESIS_V = 0.4
"""A charger that senses its input voltage lets go this far below where it starts [textbook]."""
RELAY_CLOSES_V, RELAY_OPENS_V = 13.3, 12.8
"""Of a voltage-sensitive relay, on the starter battery's side [textbook]."""


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


@dataclass(frozen=True)
class DcDc:
    """A DC-DC charger, also one at the end of a trailer lead or behind a 12 V socket.

    `limit_a` is its largest output current [A]; `efficiency` 0..1, .90 to .94 is usual.
    Sensing its input, it starts above `cut_in_v`; with an ignition wire it starts at once. Below
    `cut_out_v` at its own terminals it lets go. Above `derate_from_c` around it, it gives
    `derate_per_k` less a kelvin; its place is `warmer_k` warmer than the air. `fuse_a` limits the
    input, `delay_min` is how long the starter battery comes first.
    """

    key: str
    name: str
    limit_a: float
    efficiency: float
    alternator: Alternator = Alternator()
    feed: Feed = Feed()
    half_current: bool = False
    ignition: bool = True
    cut_in_v: float = 13.2
    cut_out_v: float = 11.5
    derate_from_c: float = 45.0
    derate_per_k: float = 0.03
    warmer_k: float = 10.0
    fuse_a: float | None = None
    delay_min: float = 0.0
    profile: Profile | None = None
    noisy: bool = False

    kind: Literal["dcdc"] = "dcdc"


@dataclass(frozen=True)
class Relay:
    """A voltage-sensitive relay, or a switch left closed (`forced`): a wire to the alternator."""

    key: str
    name: str
    alternator: Alternator = Alternator()
    feed: Feed = Feed()
    fuse_a: float | None = 60.0
    forced: bool = False
    delay_min: float = 0.0
    profile: Profile | None = None
    noisy: bool = False

    kind: Literal["relay"] = "relay"


VehicleSource = DcDc | Relay


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


def heat_share(charger: DcDc, air_c: Floats) -> Floats:
    """(steps,) share 0..1 of its output that the heat around it leaves a charger."""
    over = np.maximum(air_c + charger.warmer_k - charger.derate_from_c, 0.0)
    return np.clip(1.0 - charger.derate_per_k * over, 0.0, 1.0)


def feed_power_w(charger: DcDc, engine: Engine) -> Floats:
    """(steps,) most that the feed passes to the charger's output while it is on [W].

    Input current is bound by the fuse, by what the alternator has left, and by the drop that
    would take the input under the cut-out: `V_alt - I R = cut_out`. A charger that asks for
    more hunts about that point; its mean is taken as the point itself [judgement].
    """
    ohm = max(charger.feed.ohm, 1e-9)
    headroom_v = np.maximum(engine.volts - charger.cut_out_v, 0.0)
    amps = np.minimum(engine.spare_a, headroom_v / ohm)
    # Past half the alternator's voltage more current would carry less power.
    amps = np.minimum(amps, engine.volts / (2.0 * ohm))
    if charger.fuse_a is not None:
        amps = np.minimum(amps, charger.fuse_a)
    starts = engine.volts >= charger.cut_in_v - SENSING_HYSTERESIS_V
    if not charger.ignition:
        amps = np.where(starts, amps, 0.0)
    return np.asarray(charger.efficiency * amps * (engine.volts - amps * ohm))


def input_current_a(power_in_w: Floats, source_v: Floats, ohm: float) -> Floats:
    """Input current at the charger's end of a feed: `(V - I R) I = P`, the smaller current.

    Where there is no root (more than the feed can pass) the current of most power is given.
    """
    if ohm <= 0.0:
        return np.divide(power_in_w, source_v, out=np.zeros_like(power_in_w), where=source_v > 0)
    inside = np.maximum(source_v**2 - 4.0 * ohm * power_in_w, 0.0)
    return np.asarray((source_v - np.sqrt(inside)) / (2.0 * ohm))
