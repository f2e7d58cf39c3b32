"""What each particle has of its own beside its scenario, as one record."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

Floats = NDArray[np.float64]
OWN = np.dtype(
    [
        ("log_weight", np.float64),
        ("bias", np.float64),
        ("volts_off", np.float64),
        ("gain", np.float64),
        ("offset_a", np.float64),
        ("full_at", np.float64),
        ("story", np.float64),
    ]
)
"""What a particle has of its own beside its scenario: its likelihood, what its monitor's zero, its
voltmeter and its counters are off, what its shunt counts while nothing flows, and at which level
its monitor takes the battery for full; `story` is 1 where it goes on from a reading that nobody
foresaw, and 0 otherwise."""


SHAKEN = ("bias", "volts_off", "gain", "offset_a")
"""Of these a copy is set a little apart from the one it was made of."""


class OwnNumber:
    """One number of every particle, as a view of their records."""

    def __set_name__(self, owner: type, name: str) -> None:
        self.name = name

    def __get__(self, particles: Particles, owner: type) -> Floats:
        return np.asarray(particles.own[self.name])

    def __set__(self, particles: Particles, values: Floats) -> None:
        particles.own[self.name] = values
