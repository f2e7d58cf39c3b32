"""A transceiver: it listens, and sends for a share of its hours."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.loads.pattern import Running

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Radio:
    """`receive_w` while listening; the appliance's power while sending, a `transmit` share."""

    receive_w: float
    transmit: float

    def power_in(self, running: Running) -> tuple[Floats, float]:
        """The mean of both."""
        mean_w = self.transmit * running.power_w + (1.0 - self.transmit) * self.receive_w
        return running.window * mean_w, max(running.power_w, self.receive_w)

    def per_kelvin(self, duty: float, air_c: Floats) -> None:
        """Warmth is nothing to it."""
