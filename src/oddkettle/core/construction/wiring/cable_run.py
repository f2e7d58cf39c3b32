"""One run of cable where it lies: what it bears, how warm it gets, what is lost along it."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.construction.wiring.cable import (
    ampacity_a,
    conductor_c,
    run_ohm,
)
from oddkettle.core.construction.wiring.circuits import (
    Circuit,
)
from oddkettle.core.construction.wiring.connectors import (
    contacts_ohm,
)
from oddkettle.core.simulation.own_wiring import Wiring


@dataclass(frozen=True)
class CableRun:
    """A run there and back between two ends, before its size is chosen.

    run_m : one way [m]; ambient_c : air about it [C]
    contacts_ohm : of its connector and lugs, both poles [ohm]
    before_ohm : between its beginning and the source itself, the battery's own lead [ohm]
    """

    run_m: float
    bundled: bool
    engine_bay: bool
    ambient_c: float
    contacts_ohm: float = 0.0
    before_ohm: float = 0.0

    def bears_a(self, area_mm2: float) -> float:
        """Ampacity of a size here [A]."""
        return ampacity_a(
            area_mm2,
            bundled=self.bundled,
            engine_bay=self.engine_bay,
            ambient_c=self.ambient_c,
        )

    def warm_c(self, area_mm2: float, amps: float) -> float:
        """Temperature of the copper at a current that flows for hours [C]."""
        return conductor_c(amps, self.bears_a(area_mm2), self.ambient_c)

    def own_ohm(self, area_mm2: float, amps: float) -> float:
        """Resistance of this run with its contacts, as warm as the current makes it [ohm]."""
        copper = run_ohm(self.run_m, area_mm2, self.warm_c(area_mm2, amps))
        return copper + self.contacts_ohm

    def drop_v(self, area_mm2: float, amps: float) -> float:
        """Voltage lost from the source to the load [V]."""
        return amps * (self.own_ohm(area_mm2, amps) + self.before_ohm)


def cable_run_of(circuit: Circuit, wiring: Wiring) -> CableRun:
    """The run that a circuit's cable was chosen for."""
    return CableRun(
        run_m=circuit.run_m,
        bundled=circuit.bundled,
        engine_bay=circuit.engine_bay,
        ambient_c=wiring.ambient_c,
        contacts_ohm=contacts_ohm(circuit.connector),
        before_ohm=circuit.before_ohm,
    )
