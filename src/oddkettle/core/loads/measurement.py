"""Two readings of a counter and the time between them, turned into what an appliance takes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from oddkettle.core.loads.demand import Appliance
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.messages.errors import PlanError

Counter = Literal["Ah", "Wh"]


@dataclass(frozen=True)
class Reading:
    """A counter before and after [Ah or Wh, as `counter` tells], and the hours between.

    `others_w` is what else ran from the box meanwhile [W at the battery], `bus_v` the voltage by
    which amp-hours become watt-hours, `air_c` the air around a fridge [C].
    """

    before: float
    after: float
    counter: Counter
    hours: float
    bus_v: float
    others_w: float = 0.0
    air_c: float | None = None


@dataclass(frozen=True)
class Measured:
    """An average [W at the battery, W at the plug], and the figures that give it.

    A compressor's running power is kept, and the share of time is what was measured; of anything
    else the power is. `steady` says that the average takes the place of bursts or sleep.
    """

    battery_w: float
    plug_w: float
    power_w: float
    duty: float
    steady: bool = False


def measured(appliance: Appliance, reading: Reading, plug_share: float) -> Measured:
    """What the appliance takes, measured while it was switched on the whole time.

    `plug_share` 0..1 is what its converter passes. Raises PlanError for readings that cannot be.
    """
    _check(reading)
    used_wh = (reading.after - reading.before) * (reading.bus_v if reading.counter == "Ah" else 1.0)
    battery_w = used_wh / reading.hours - reading.others_w
    if battery_w <= 0.0:
        raise PlanError(
            f"Less the others' {reading.others_w:g} W nothing is left for {appliance.name}.",
            where=("others_w",),
            value=reading.others_w,
            limit=f"below {used_wh / reading.hours:.1f} W, the average of all",
            remedy="Measure with everything else switched off, or correct the others' power.",
        )
    plug_w = battery_w * plug_share
    pattern = appliance.pattern
    if pattern is not None and not isinstance(pattern, Fridge):
        return Measured(battery_w, plug_w, plug_w, 1.0, steady=True)
    cycles = appliance.duty < 1.0 or pattern is not None
    if not cycles or plug_w >= appliance.power_w:
        return Measured(battery_w, plug_w, plug_w, 1.0)
    duty = plug_w / appliance.power_w
    if pattern is not None and reading.air_c is not None:
        # The plan holds the share at the pattern's own temperature; this one was at another.
        duty /= max(float(pattern.growth(reading.air_c)), 1e-3)
    return Measured(battery_w, plug_w, appliance.power_w, min(duty, 1.0))


def _check(reading: Reading) -> None:
    if reading.after <= reading.before:
        raise PlanError(
            f"The counter went from {reading.before:g} to {reading.after:g}: it must rise.",
            where=("after",),
            value=reading.after,
            limit=f"above {reading.before:g} {reading.counter}",
            remedy="Read the counter of what went out, later than the first time.",
        )
    if reading.hours <= 0.0:
        raise PlanError(
            f"{reading.hours:g} h lie between the readings.",
            where=("hours",),
            value=reading.hours,
            limit="above 0 h",
            remedy="Give the hours from the first reading to the second.",
        )
