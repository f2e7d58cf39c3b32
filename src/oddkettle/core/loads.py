"""Appliances and the inverter: what they draw from the bus, and when."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.trip import Grid, daily_share
from oddkettle.core.units import HOURS_PER_DAY, MINUTES_PER_DAY

Floats = NDArray[np.float64]
Supply = Literal["12v", "usb", "inverter"]

USB_EFFICIENCY = 0.88
"""Of a 12 V to USB converter [textbook]."""


@dataclass(frozen=True)
class Window:
    """Daily hours on the local wall clock, minutes after midnight; may pass midnight."""

    start_min: int
    end_min: int


@dataclass(frozen=True)
class Appliance:
    """Something that draws power: `power_w` while it runs, at its own plug.

    `duty` (0..1) is the share of its hours in which it really runs.
    """

    key: str
    name: str
    power_w: float
    supply: Supply
    windows: tuple[Window, ...]
    duty: float = 1.0


@dataclass(frozen=True)
class Inverter:
    """`idle_w` is drawn whenever it is on: with its loads, or always."""

    rating_w: float
    idle_w: float
    efficiency: float
    always_on: bool = False


@dataclass(frozen=True)
class DailyDraw:
    """One average day of one appliance at the bus.

    bus_w : (steps a day,) from local midnight
    plug_w : share of `bus_w` that reaches the appliance (the rest is conversion loss)
    """

    key: str
    name: str
    bus_w: Floats
    plug_share: float
    running_bus_w: float


def supply_efficiency(supply: Supply, inverter: Inverter | None) -> float:
    """Share of the bus power that reaches the plug (inverter idle is counted by itself)."""
    if supply == "usb":
        return USB_EFFICIENCY
    if supply == "inverter" and inverter is not None:
        return inverter.efficiency
    return 1.0


def hours_share(windows: tuple[Window, ...], step_min: int) -> Floats:
    """(steps a day,) share of each step in which any of the windows is open."""
    share = np.zeros(MINUTES_PER_DAY // step_min)
    for window in windows:
        share += daily_share(window.start_min, window.end_min, step_min)
    return np.minimum(share, 1.0)


INVERTER_KEY = "inverter-idle"


def daily_draws(
    appliances: tuple[Appliance, ...], inverter: Inverter | None, step_min: int
) -> tuple[DailyDraw, ...]:
    """Every appliance's day, and the inverter's own draw as one more."""
    draws = []
    inverter_on = np.zeros(MINUTES_PER_DAY // step_min)
    for appliance in appliances:
        share = hours_share(appliance.windows, step_min)
        efficiency = supply_efficiency(appliance.supply, inverter)
        running_w = appliance.power_w / efficiency
        draws.append(
            DailyDraw(
                appliance.key,
                appliance.name,
                share * appliance.duty * running_w,
                efficiency,
                running_w,
            )
        )
        if appliance.supply == "inverter":
            inverter_on = np.maximum(inverter_on, share)
    if inverter is not None:
        if inverter.always_on:
            inverter_on = np.ones_like(inverter_on)
        idle_w = inverter.idle_w / inverter.efficiency
        if inverter_on.any():
            draws.append(
                DailyDraw(INVERTER_KEY, "Inverter, idling", inverter_on * idle_w, 0.0, idle_w)
            )
    return tuple(draws)


def demand_w(draws: tuple[DailyDraw, ...], grid: Grid) -> Floats:
    """(appliances, steps) power asked of the bus [W]."""
    slot = grid.clock_min // grid.step_min
    if not draws:
        return np.zeros((0, grid.steps))
    return np.stack([draw.bus_w[slot] for draw in draws])


def watt_hours_a_day(draw: DailyDraw) -> float:
    """Energy of one day at the bus [Wh]."""
    return float(draw.bus_w.mean() * HOURS_PER_DAY)


def peak_w(draws: tuple[DailyDraw, ...]) -> tuple[float, int]:
    """Largest power at the bus when everything due is running at once [W], and its slot."""
    if not draws:
        return 0.0, 0
    together = sum(np.where(draw.bus_w > 0.0, draw.running_bus_w, 0.0) for draw in draws)
    slot = int(np.argmax(together))
    return float(np.asarray(together)[slot]), slot
