"""A voltage-sensitive relay: a wire to the alternator."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.sources.alternator import KIND, Alternator, Feed, engine_series
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.source_series import UNLIMITED_W, SourceContext, SourceSeries

Floats = NDArray[np.float64]

RELAY_FUSE_A = 60.0
"""Of a relay as it comes."""
RELAY_CLOSES_V, RELAY_OPENS_V = 13.3, 12.8
"""Of a voltage-sensitive relay, on the starter battery's side [textbook]."""


@dataclass(frozen=True)
class Relay:
    """A voltage-sensitive relay, or a switch left closed (`forced`): a wire to the alternator."""

    key: str
    name: str
    alternator: Alternator = Alternator()
    feed: Feed = Feed()
    fuse_a: float | None = RELAY_FUSE_A
    forced: bool = False
    delay_min: float = 0.0
    profile: Profile | None = None
    noisy: bool = False

    kind: Literal["relay"] = "relay"

    @property
    def group(self) -> str:
        """The kind's key."""
        return KIND.key

    def forcing(self, context: SourceContext) -> SourceSeries:
        """What it could give over the trip."""
        return relay_series(self, context)


def relay_series(source: Relay, context: SourceContext) -> SourceSeries:
    """What the wire to the alternator could pass while the relay is closed."""
    engine = engine_series(context.grid, context.blocks, source.alternator, source.delay_min)
    on, volts, spare_a = engine.on, engine.volts, engine.spare_a
    none = np.zeros(context.grid.steps)
    closes = RELAY_OPENS_V if source.alternator.smart else RELAY_CLOSES_V
    closed = on * ((volts >= closes) | source.forced)
    fuse = np.inf if source.fuse_a is None else source.fuse_a
    limit = np.minimum(spare_a, fuse) * closed
    siemens = 1.0 / max(source.feed.ohm, 1e-4)
    return SourceSeries(
        kind=KIND.key,
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
