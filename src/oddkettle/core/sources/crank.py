"""A generator that somebody turns by hand or treads: as long as arms and legs last.

A healthy adult treads 75 W for hours and turns some 30 W by hand [Wilson, Bicycling Science, 3rd
ed. 2004, ch. 2: power against duration, hands about 40 % of legs]; what is gained is small, and
that is worth knowing before one is bought.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddkettle.core.messages.caution import Caution
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.source_series import Knob, SourceContext, SourceKind, SourceSeries

KIND = SourceKind(
    key="crank",
    place=5,
    name="Hand crank",
    hours_of="cranking",
    how_made="What somebody turns, less what its generator and charger lose, while it is turned.",
    spare="not needed",
    idle="Nobody turns the crank on this trip.",
    block="crank",
    knob=Knob("Turn the crank", "cranking", "The box has no hand crank.", (30, 60), bother=3),
    cautions=(
        Caution(
            "crank",
            "It turns, and it can kick",
            "Clamp it down, keep hair, sleeves and straps away, and stop when joints hurt. A full "
            "battery may make it suddenly light.",
            "rotating parts; ergonomics of repeated effort [textbook]",
        ),
    ),
)


@dataclass(frozen=True)
class Crank:
    """`power_w` is what is turned into it for as long as it is turned [W], `efficiency` 0..1."""

    key: str
    name: str
    power_w: float
    efficiency: float
    limit_a: float
    profile: Profile | None = None
    noisy: bool = False

    @property
    def group(self) -> str:
        """The kind's key."""
        return KIND.key

    def forcing(self, context: SourceContext) -> SourceSeries:
        """What it could give over the trip."""
        turned = context.shares["crank"]
        watts = self.power_w * self.efficiency * turned
        none = np.zeros_like(turned)
        return SourceSeries(
            kind=KIND.key,
            key=self.key,
            name=self.name,
            efficiency=self.efficiency,
            rating_a=self.limit_a,
            could_w=watts,
            could_a=self.limit_a * turned,
            offer_w=watts,
            limit_a=self.limit_a * turned,
            on=turned,
            barred=none,
            raw_w=none,
            wire_w=none,
            source_v=none,
            noisy=self.noisy,
            profile=self.profile,
        )
