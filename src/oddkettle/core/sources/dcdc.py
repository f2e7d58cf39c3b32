"""A DC-DC charger on the vehicle, also at the end of a trailer lead or behind a 12 V socket."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.sources.alternator import KIND, Alternator, Engine, Feed, engine_series
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.source_series import UNLIMITED_W, SourceContext, SourceSeries

Floats = NDArray[np.float64]

SENSING_HYSTERESIS_V = 0.4
"""A charger that senses its input voltage lets go this far below where it starts [textbook]."""


@dataclass(frozen=True)
class DcDc:
    """A DC-DC charger, also one at the end of a trailer lead or behind a 12 V socket.

    `limit_a` is its largest output current [A]; `efficiency` 0..1, .90 to .94 is usual.
    Sensing its input, it starts above `cut_in_v`; with an ignition wire it starts at once. Below
    `cut_out_v` at its own terminals it lets go. Above `derate_from_c` around it, it gives
    `derate_per_k` less a kelvin; its place is `warmer_k` warmer than the air. `fuse_a` limits the
    input, `delay_min` is how long the starter battery comes first. One in a `socket` of the vehicle
    runs as long as that is live; the plan takes it as dead while parked.
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
    socket: bool = False

    kind: Literal["dcdc"] = "dcdc"

    @property
    def group(self) -> str:
        """The kind's key."""
        return KIND.key

    def forcing(self, context: SourceContext) -> SourceSeries:
        """What it could give over the trip."""
        return dcdc_series(self, context)


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


def dcdc_series(source: DcDc, context: SourceContext) -> SourceSeries:
    """What the charger could give while the engine runs."""
    grid = context.grid
    engine = engine_series(grid, context.blocks, source.alternator, source.delay_min)
    none = np.zeros(grid.steps)
    rating = source.limit_a * (0.5 if source.half_current else 1.0)
    could_a = rating * engine.on
    return SourceSeries(
        kind=KIND.key,
        key=source.key,
        name=source.name,
        efficiency=source.efficiency,
        rating_a=rating,
        could_w=np.full(grid.steps, UNLIMITED_W),
        could_a=could_a,
        offer_w=engine.on * feed_power_w(source, engine),
        limit_a=could_a * heat_share(source, context.air_c),
        on=engine.on,
        barred=none,
        raw_w=none,
        wire_w=none,
        source_v=engine.volts,
        feed_ohm=source.feed.ohm,
        noisy=source.noisy,
        profile=source.profile,
    )
