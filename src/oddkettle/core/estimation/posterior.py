"""What the readings leave of what was held before: of the numbers, and of where the trip stands."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.ensemble_tables import EnsembleState, ScenarioDraws
from oddkettle.core.weather.weather_generator import Chain, Doubt

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


@dataclass(frozen=True, eq=False)
class PosteriorSample:
    """Equally likely particles at step `step`: from here the rest of the trip is run.

    Told apart by identity, so that what was drawn from one can be kept.
    """

    step: int
    drawn: ScenarioDraws
    keys: tuple[str, ...]
    state: EnsembleState
    chain: Chain
    sky_day: int
    doubt: Doubt


@dataclass(frozen=True)
class Posterior:
    """What is held of the numbers that were typed, each (particles,); 1 is as typed.

    load : by the appliance's key; bias : how far the monitor's percent is off, 0..1; gain : what
        its counters count of what went through
    """

    load: dict[str, Floats]
    sun: Floats
    capacity: Floats
    bias: Floats
    gain: Floats

    def of(self, rows: Ints) -> Posterior:
        """Those of these particles."""
        load = {key: part[rows] for key, part in self.load.items()}
        parts = (self.sun, self.capacity, self.bias, self.gain)
        return Posterior(load, *(part[rows] for part in parts))


def at_rows(drawn: ScenarioDraws, rows: Ints) -> ScenarioDraws:
    """The drawn of these particles, in this order; a copy."""
    return drawn._replace(
        clearness=drawn.clearness[rows],
        shape=drawn.shape[rows],
        low_c=drawn.low_c[rows],
        high_c=drawn.high_c[rows],
        load=drawn.load[rows],
        sun=drawn.sun[rows],
        capacity=drawn.capacity[rows],
        acceptance=drawn.acceptance[rows],
        soc0=drawn.soc0[rows],
    )
