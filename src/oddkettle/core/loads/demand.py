"""Appliances and the inverter: what they draw from the bus, and when."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.records import ASK, ASK_A, ASK_S, ASK_W, Records, as_numbers
from oddkettle.core.loads.converter import Converter
from oddkettle.core.loads.essential import may_be_cut
from oddkettle.core.loads.flexible import LoadRun, runs_share
from oddkettle.core.loads.overrides import LoadOverride, as_it_ran, share_between
from oddkettle.core.loads.pattern import Pattern, Running
from oddkettle.core.trip.grid import Grid, daily_share
from oddkettle.core.units.conversion import CLASS_V, MINUTES_PER_DAY
from oddkettle.core.values.cache import cached

Floats = NDArray[np.float64]
Supply = Literal["12v", "usb", "inverter"]
Draw = Literal["power", "resistance", "current"]
Priority = Literal["first", "wanted", "must"]
DayKind = Literal["site", "drive", "rest"]
DAY_KINDS: tuple[DayKind, ...] = ("site", "drive", "rest")
PRIORITIES: tuple[Priority, ...] = ("first", "wanted", "must")
"""The order in which loads go when the level falls."""

USB_EFFICIENCY = 0.88
"""Of a 12 V to USB converter or adapter [textbook]."""
RATED_OVER_CLASS = 12.8 / 12.0
"""Volts at which a 12 V lamp or heater draws its rated power, over 12 V [judgement]."""


@dataclass(frozen=True)
class Window:
    """Daily hours on the local wall clock, minutes after midnight; may pass midnight."""

    start_min: int
    end_min: int


@dataclass(frozen=True)
class Appliance:
    """Something that draws power: `power_w` while it runs, at its own plug.

    `duty` (0..1) is the share of its hours in which it really runs, for a fridge at the
    pattern's reference temperature. `draw` tells how it behaves as the voltage moves: constant
    power (electronics), resistance (heaters, filament lamps) or current. `standby_w` is drawn
    whenever it does not run. `on_vehicle` moves it to the vehicle's own socket while the engine
    runs. A `noisy` one that may be cut is silent in quiet windows. `surge_w` is what it takes to
    start; `other_days` are the windows on days of another kind than "site", where they differ.
    `spread` 0..1 is how far off a guessed power may be, 0 for a measured one. An `adapter` feeds
    from the inverter what could run from 12 V or USB. Health hangs on a `medical` one; `backup`
    says that a second source for it was tried, `takes_24v` that a 12 V one bears 24 V. `runs` say
    when it runs within its windows.
    """

    key: str
    name: str
    power_w: float
    supply: Supply
    windows: tuple[Window, ...]
    duty: float = 1.0
    pattern: Pattern | None = None
    draw: Draw = "power"
    standby_w: float = 0.0
    priority: Priority = "wanted"
    on_vehicle: bool = False
    noisy: bool = False
    surge_w: float = 0.0
    other_days: tuple[tuple[DayKind, tuple[Window, ...]], ...] = ()
    spread: float = 0.0
    adapter: bool = False
    medical: bool = False
    backup: bool = False
    takes_24v: bool = False
    runs: tuple[LoadRun, ...] | None = None

    def __post_init__(self) -> None:
        if self.medical:
            object.__setattr__(self, "priority", "must")


@dataclass(frozen=True)
class Inverter:
    """Makes mains: `idle_w` is drawn whenever it is on: with its loads, or always.

    The battery gives `AC power/efficiency + idle_w`: the idle power is what a meter in the
    battery's lead shows with nothing plugged in, so that it is poor at small loads.
    """

    rating_w: float
    idle_w: float
    efficiency: float
    always_on: bool = False
    surge_w: float | None = None
    socket_a: float | None = None
    """Fuse of the 12 V socket that it is plugged into [A]; None where it is wired to the bar."""


@dataclass(frozen=True)
class Setting:
    """What surrounds the appliances; all (steps,).

    driving, quiet : share of each step in which the engine runs, and which must be radio-quiet
    air_c : air temperature [C]; day_kinds : one a day, all "site" when empty
    overrides : what did not go as planned
    away : UTC seconds, from and up to, in which nothing runs
    output : keys of what hangs on a controller's load output
    """

    driving: Floats
    quiet: Floats
    air_c: Floats
    day_kinds: tuple[DayKind, ...] = ()
    overrides: tuple[LoadOverride, ...] = ()
    away: tuple[tuple[int, int], ...] = ()
    output: tuple[str, ...] = ()


@dataclass(frozen=True)
class DrawSeries:
    """One appliance over the trip.

    kind : ASK_W, ASK_A or ASK_S, the unit of `asked`
    asked : (steps,) mean over each step, at the bus [W, A or S]
    asked_w : the same as power at the box's nominal voltage [W]
    moved_w : (steps,) what the vehicle carried instead [W]
    plug_share : share of bus power that reaches the appliance (the rest is conversion loss)
    peak_w : power at the bus while it really runs [W]; surge_w to start
    on_output : whether it hangs on a controller's load output
    """

    key: str
    name: str
    kind: int
    asked: Floats
    asked_w: Floats
    moved_w: Floats
    plug_share: float
    peak_w: float
    surge_w: float
    priority: Priority
    on_output: bool = False

    def times(self, factor: float) -> DrawSeries:
        """The same appliance when it draws `factor` times as much."""
        if factor == 1.0:
            return self
        return replace(
            self,
            asked=self.asked * factor,
            asked_w=self.asked_w * factor,
            moved_w=self.moved_w * factor,
            peak_w=self.peak_w * factor,
            surge_w=self.surge_w * factor,
        )


INVERTER_KEY = "inverter-idle"
CONVERTER_KEY = "converter-idle"


def is_stepped_down(appliance: Appliance, converter: Converter | None, system_v: float) -> bool:
    """Whether an appliance runs behind the converter: made for 12 V, in a box of more."""
    alone = appliance.supply == "12v" and not appliance.takes_24v
    return converter is not None and system_v > CLASS_V and alone


def supply_efficiency(
    supply: Supply,
    inverter: Inverter | None,
    dc_efficiency: float = 1.0,
    usable: float = 1.0,
) -> float:
    """Share of the bus power that reaches the plug (inverter idle is counted by itself).

    `dc_efficiency` is that of a ready-made unit's own 12 V and USB outputs, `usable` the share of
    what its cells give that leaves them.
    """
    if supply == "inverter":
        return usable * (inverter.efficiency if inverter is not None else 1.0)
    return usable * dc_efficiency * (USB_EFFICIENCY if supply == "usb" else 1.0)


def hours_share(windows: tuple[Window, ...], step_min: int) -> Floats:
    """(steps a day,) share of each step in which any of the windows is open."""
    share = np.zeros(MINUTES_PER_DAY // step_min)
    for window in windows:
        share += daily_share(window.start_min, window.end_min, step_min)
    return np.minimum(share, 1.0)


@cached
def _hours_kept(windows: tuple[Window, ...], step_min: int) -> Floats:
    """`hours_share`, kept: while a block is dragged nobody's hours change."""
    return hours_share(windows, step_min)


def window_share(appliance: Appliance, grid: Grid, kinds: tuple[DayKind, ...]) -> Floats:
    """(steps,) share of each step in which an appliance's hours are open.

    A window that passes midnight belongs to the day on which it begins; the night before the
    first day is taken to be like that day's. One with runs of its own follows those.
    """
    if appliance.runs is not None:
        return runs_share(appliance.runs, grid)
    slot = grid.clock_min // grid.step_min
    other = dict(appliance.other_days)
    if not other or not kinds:
        return np.asarray(_hours_kept(appliance.windows, grid.step_min)[slot])
    parts = [_split(other.get(kind, appliance.windows), grid.step_min) for kind in DAY_KINDS]
    begun = np.stack([begins for begins, _ in parts])
    spilt = np.stack([spills for _, spills in parts])
    today = np.array([DAY_KINDS.index(kind) for kind in kinds])
    before = np.concatenate([today[:1], today[:-1]])
    day = np.repeat(np.arange(len(kinds)), np.diff(grid.day_starts).astype(int))
    return np.asarray(np.minimum(begun[today[day], slot] + spilt[before[day], slot], 1.0))


def _split(windows: tuple[Window, ...], step_min: int) -> tuple[Floats, Floats]:
    """(share on the day itself, share after the midnight that follows), each (steps a day,)."""
    begun = np.zeros(MINUTES_PER_DAY // step_min)
    spilt = np.zeros(MINUTES_PER_DAY // step_min)
    for window in windows:
        start, end = window.start_min, window.end_min
        if start == end or (start == 0 and end == MINUTES_PER_DAY):
            begun += 1.0
        elif end > start:
            begun += daily_share(start, end, step_min)
        else:
            begun += daily_share(start, MINUTES_PER_DAY, step_min)
            spilt += daily_share(0, end, step_min) if end > 0 else 0.0
    return np.minimum(begun, 1.0), np.minimum(spilt, 1.0)


def draw_series(
    appliances: tuple[Appliance, ...],
    inverter: Inverter | None,
    grid: Grid,
    around: Setting,
    system_v: float,
    converter: Converter | None = None,
    dc_efficiency: float = 1.0,
    usable: float = 1.0,
) -> tuple[DrawSeries, ...]:
    """Every appliance over the trip, and what inverter and converter draw themselves.

    `dc_efficiency` and `usable` as `supply_efficiency` takes them.
    """
    draws = []
    inverter_on = np.zeros(grid.steps)
    there = share_there(grid, around.away)
    for place, plugged in enumerate(appliances):
        appliance = plugged
        window = window_share(appliance, grid, around.day_kinds) * there
        window = as_it_ran(appliance.key, window, around.overrides, grid)
        efficiency = supply_efficiency(appliance.supply, inverter, dc_efficiency, usable)
        if converter is not None and is_stepped_down(appliance, converter, system_v):
            efficiency *= converter.efficiency
            # What it is to the bus: constant power, as behind every converter.
            appliance = replace(plugged, draw="power")
        draws.append(_series(appliance, window, efficiency, grid, around, system_v, place, there))
        if appliance.supply == "inverter":
            inverter_on = np.maximum(inverter_on, window)
    if inverter is not None:
        if inverter.always_on:
            inverter_on = np.maximum(inverter_on, there)
        if inverter_on.any():
            idle = inverter_on * inverter.idle_w / usable
            draws.append(steady_draw(INVERTER_KEY, "Inverter, idling", idle))
    if converter is not None and converter.idle_w > 0.0 and system_v > CLASS_V:
        idle = there * converter.idle_w
        draws.append(steady_draw(CONVERTER_KEY, "12 V converter, idling", idle))
    return tuple(draws)


def steady_draw(key: str, name: str, asked_w: Floats) -> DrawSeries:
    """Something that the box's own parts draw, all of it lost to other uses."""
    peak_w = float(asked_w.max(initial=0.0))
    return DrawSeries(
        key, name, ASK_W, asked_w, asked_w, np.zeros_like(asked_w), 0.0, peak_w, peak_w, "must"
    )


def _series(
    appliance: Appliance,
    window: Floats,
    efficiency: float,
    grid: Grid,
    around: Setting,
    system_v: float,
    place: int,
    there: Floats,
) -> DrawSeries:
    plug_w, peak_w = _plug_power(appliance, window, grid, around, place, there)
    if appliance.noisy and may_be_cut(appliance):
        plug_w = plug_w * (1.0 - around.quiet)
    bus_w = plug_w / efficiency
    moved_w = np.zeros_like(bus_w)
    if appliance.on_vehicle:
        moved_w = bus_w * around.driving
        bus_w = bus_w - moved_w
    # Behind a converter everything is constant power, whatever the appliance is.
    kind = appliance.draw if appliance.supply == "12v" else "power"
    rated_v = system_v * RATED_OVER_CLASS
    unit, per_w = {
        "power": (ASK_W, 1.0),
        "current": (ASK_A, 1.0 / rated_v),
        "resistance": (ASK_S, 1.0 / rated_v**2),
    }[kind]
    return DrawSeries(
        key=appliance.key,
        name=appliance.name,
        kind=unit,
        asked=bus_w * per_w,
        asked_w=bus_w,
        moved_w=moved_w,
        plug_share=efficiency,
        peak_w=peak_w / efficiency,
        surge_w=max(appliance.surge_w, peak_w) / efficiency,
        priority=appliance.priority,
        on_output=appliance.key in around.output,
    )


def _plug_power(
    appliance: Appliance, window: Floats, grid: Grid, around: Setting, place: int, there: Floats
) -> tuple[Floats, float]:
    """(mean power by step at the plug, power while it really runs) [W]."""
    rest_w = appliance.standby_w * (there - window).clip(0.0)
    running_w = appliance.power_w
    if appliance.pattern is None:
        return window * appliance.duty * running_w + rest_w, running_w
    running = Running(running_w, appliance.duty, window, around.air_c, grid, place)
    mean_w, peak_w = appliance.pattern.power_in(running)
    return mean_w + rest_w, peak_w


def stack_demand(
    draws: tuple[DrawSeries, ...], steps: int, shed: dict[Priority, float], *, twice: bool = False
) -> tuple[Records, Floats]:
    """(asked, shed_below) for the loop: what is left when the first 0, 1, ... groups are off.

    With `twice` all levels come once more, without what hangs on a load output. `shed` gives the
    state of charge at which a priority goes; absent ones stay until the box cuts out. Levels must
    fall from "first" to "must".
    """
    going = [p for p in PRIORITIES if p in shed]
    levels = len(going) + 1
    asked = np.zeros((steps, levels * (1 + twice)), ASK)
    numbers = as_numbers(asked)
    for draw in draws:
        last = going.index(draw.priority) if draw.priority in going else len(going)
        numbers[:, : last + 1, draw.kind] += draw.asked[:, None]
        if twice and not draw.on_output:
            numbers[:, levels : levels + last + 1, draw.kind] += draw.asked[:, None]
    return asked, np.array([shed[p] for p in going])


def shed_levels(draw: DrawSeries, shed: dict[Priority, float]) -> float:
    """From how many groups off this draw is off too; infinite when it stays to the end."""
    going = [p for p in PRIORITIES if p in shed]
    return going.index(draw.priority) + 1.0 if draw.priority in going else np.inf


def daily_profile_w(draw: DrawSeries, grid: Grid, away: tuple[tuple[int, int], ...] = ()) -> Floats:
    """(steps a day,) mean power by the clock over the trip, but for what is `away` of it [W]."""
    return by_the_clock(draw.asked_w, grid, away)


def by_the_clock(watts: Floats, grid: Grid, away: tuple[tuple[int, int], ...] = ()) -> Floats:
    """(steps a day,) mean by the clock of a (steps,) series, but for what is `away` of it."""
    slot = grid.clock_min // grid.step_min
    slots = MINUTES_PER_DAY // grid.step_min
    counts = np.bincount(slot, weights=share_there(grid, away), minlength=slots)
    counts = np.maximum(counts, 1e-9)
    return np.asarray(np.bincount(slot, weights=watts, minlength=slots) / counts)


def share_there(grid: Grid, away: tuple[tuple[int, int], ...]) -> Floats:
    """(steps,) share 0..1 of each step in which the box is in use."""
    there = np.ones(grid.steps)
    for from_s, until_s in away:
        there -= share_between(grid, from_s, until_s)
    return there


def peak_w(draws: tuple[DrawSeries, ...], grid: Grid) -> tuple[float, int]:
    """Largest power at the bus when everything due is running at once [W], and its clock slot."""
    if not draws:
        return 0.0, 0
    slots = MINUTES_PER_DAY // grid.step_min
    together = np.zeros(slots)
    for draw in draws:
        together += np.where(daily_profile_w(draw, grid) > 0.0, draw.peak_w, 0.0)
    slot = int(np.argmax(together))
    return float(together[slot]), slot
