"""Arrays and their controllers: from panels in the light to what is offered to the box."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.caution import Caution
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.panel import (
    DIRT_SHARE,
    MISMATCH_SHARE,
    STC_C,
    STC_W_M2,
    Label,
    Light,
    Panel,
    light_on,
    power_from_light,
)
from oddkettle.core.sources.source_series import (
    UNLIMITED_W,
    ArrayVolts,
    SourceContext,
    SourceKind,
    SourceSeries,
)
from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.trip.grid import Grid, Site, daily_share
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.core.values.cache import cached_on_disk
from oddkettle.core.weather.clear_sky import grid_key, trip_sky_at, under_clearness

Floats = NDArray[np.float64]

KIND = SourceKind(
    key="sun",
    place=1,
    name="Sun",
    hours_of="hours of light",
    how_made=(
        "Light on the tilted panel from the clear sky of the place and date, scaled by the day's "
        "clearness, times the panel's watts, less heat, dirt and mismatch, through its "
        "controller."
    ),
    spare="spilled, battery full",
    idle="The panels see no sun on this trip.",
    design="panel_w",
    cautions=(
        Caution(
            "sun",
            "A panel in light is always live",
            "It cannot be switched off: cover it or disconnect it before work. Off order: panel "
            "first, then battery; on order: battery first. Your local code comes first.",
            "controllers are made for battery first [datasheet, textbook]",
        ),
    ),
)


PASSES_A_PER_W = 1.1
"""A controller is chosen a tenth above what the panel gives into the battery."""


def controller_a(panel_w: float, bank_v: float) -> float:
    """The controller that lets all of so many watts of panel pass at a bank's nominal voltage [A].

    Wherever a panel grows, its controller is told by this.
    """
    return PASSES_A_PER_W * panel_w / bank_v


@dataclass(frozen=True)
class Controller:
    """A charge controller: largest output current [A] and efficiency (0..1).

    A `tracking` one finds the panel's best power; a `pwm` one connects the panel to the battery,
    so that its current counts and its voltage is lost. Without one ("none") it does so too, and
    nothing ends the charge: that is judged, the run holds the bank's own voltages. Input limits
    are None when not known. A tracking one needs `headroom_v` above the battery; `own_w` is drawn
    day and night.
    """

    limit_a: float
    efficiency: float
    kind: Literal["tracking", "pwm", "none"] = "tracking"
    input_limit_w: float | None = None
    input_limit_v: float | None = None
    headroom_v: float = 1.0
    own_w: float = 0.0


@dataclass(frozen=True)
class Shade:
    """`share` 0..1 of the light is lost in these daily hours, minutes after local midnight.

    A shadow on a string of cells often costs more than its area: the share is of the output.
    """

    start_min: int
    end_min: int
    share: float


@dataclass(frozen=True)
class SunInput:
    """Panels on one controller: `series` of them in each string, the strings in parallel.

    `cable_m` of `cable_mm2` one way to the controller make `cable_ohm`; None where not stated.

    `dirt` is the share of light that dust takes (0..1); the usual 3 % are already in the panel's
    power, so only the difference counts here.
    """

    key: str
    name: str
    panels: tuple[Panel, ...]
    controller: Controller
    series: int = 1
    cable_ohm: float = 0.0
    shade: tuple[Shade, ...] = ()
    dirt: float = 1.0 - DIRT_SHARE
    profile: Profile | None = None
    noisy: bool = False
    cable_m: float | None = None
    cable_mm2: float = 4.0

    @property
    def group(self) -> str:
        """The kind's key."""
        return KIND.key

    def forcing(self, context: SourceContext) -> SourceSeries:
        """What it could give over the trip."""
        return sun_series(self, context)

    @property
    def at_battery(self) -> bool:
        """Whether the panels work at the battery's voltage, not at their best one."""
        return self.controller.kind != "tracking" or any(p.own_regulator for p in self.panels)

    @property
    def count(self) -> int:
        """Panels in all."""
        return sum(panel.count for panel in self.panels)


@dataclass(frozen=True)
class SunOffer:
    """What an array offers before joining; all (steps,).

    raw_w : power at the controller's input [W]
    wire_w : power lost in the array's cable [W]
    could_w : power at the controller's output, neither of its limits counted [W]
    offer_w : the same within its input's limit [W]
    offer_a : current that a PWM controller passes at most [A]; infinite for a tracking one
    """

    raw_w: Floats
    wire_w: Floats
    could_w: Floats
    offer_w: Floats
    offer_a: Floats


def check_array(array: SunInput, where: tuple[str | int, ...]) -> None:
    """Refuse strings that do not come out even."""
    if array.count % array.series:
        raise PlanError(
            f"{array.count} panels do not make strings of {array.series}.",
            where=(*where, "series"),
            value=array.series,
            limit=f"a divisor of {array.count}",
            remedy="Change how many are in series, or how many panels there are.",
        )


@cached_on_disk(Light)
def _light_cached(
    panel: Panel,
    sites: tuple[Site, ...],
    first_s: int,
    step_s: int,
    days: bytes,
    clear: bytes,
    air: bytes,
) -> Light:
    day_starts = np.frombuffer(days, np.int64)
    clearness = np.frombuffer(clear, np.float64)
    sky = under_clearness(trip_sky_at(sites, first_s, step_s, days), clearness)
    return light_on(panel, sky, np.frombuffer(air, np.float64), day_starts)


def light_series(
    panel: Panel, sites: tuple[Site, ...], grid: Grid, clearness: Floats, air_c: Floats
) -> Light:
    """`light_on` for a grid with one site a day (or one for all), kept.

    Dragging a block or a load does not ask the sky again.
    """
    return _light_cached(
        as_aimed(panel),
        sites,
        *grid_key(grid),
        clearness.tobytes(),
        air_c.tobytes(),
    )


def as_aimed(panel: Panel) -> Panel:
    """A panel as far as light is concerned: where it looks, not how strong it is."""
    return Panel(1.0, panel.mount, panel.tilt_deg, panel.azimuth_deg, False, 1, panel.aims)


def offer_of(
    array: SunInput, lights: tuple[Light, ...], works: tuple[Floats, ...], lit: Floats, bus_v: float
) -> SunOffer:
    """What an array offers to a bus of about `bus_v`.

    lights, works : a panel's light and the share of each step in which it is out
    lit : (steps,) share of the light that no shade takes
    """
    controller = array.controller
    volts, open_v, amps, watts = _string(array, lights, works, lit)
    wire_w = amps**2 * array.cable_ohm
    wire_w = np.minimum(wire_w, watts)
    raw_w = watts - wire_w
    # Where the panel cannot reach what the controller needs, its current falls to nothing
    # between its best voltage and its open-circuit one.
    need_v = bus_v + (controller.headroom_v if not array.at_battery else 0.0)
    reach = np.clip((open_v - need_v) / np.maximum(open_v - volts, 1e-9), 0.0, 1.0)
    if controller.input_limit_v is not None:
        reach = np.where(open_v > controller.input_limit_v, 0.0, reach)
    if array.at_battery:
        offer_a = amps * reach
        return SunOffer(raw_w, wire_w, offer_a * bus_v, offer_a * bus_v, offer_a)
    direct_w = np.minimum(amps * bus_v, raw_w)
    raw_w = np.where(volts >= need_v, np.where(reach > 0.0, raw_w, 0.0), direct_w * reach)
    could_w = raw_w * controller.efficiency
    if controller.input_limit_w is not None:
        raw_w = np.minimum(raw_w, controller.input_limit_w)
    no_limit_a = np.full(len(raw_w), np.inf)
    return SunOffer(raw_w, wire_w, could_w, raw_w * controller.efficiency, no_limit_a)


def parallel_share(array: SunInput) -> float:
    """Of what panels in parallel could give each by itself, what they give at one voltage, 0..1.

    That is the best of their own; above it a panel's current falls to nothing at its Voc.
    """
    plates = [(panel.plate, panel.count) for panel in array.panels]
    alone = sum(n * plate.imp_a * plate.vmp_v for plate, n in plates)

    def part(plate: Label, volts: float) -> float:
        falls_v = max(plate.voc_v - plate.vmp_v, 1e-9)
        return min(max((plate.voc_v - volts) / falls_v, 0.0), 1.0)

    def together(volts: float) -> float:
        return sum(n * volts * plate.imp_a * part(plate, volts) for plate, n in plates)

    return max(together(plate.vmp_v) for plate, _ in plates) / alone


def _string(
    array: SunInput, lights: tuple[Light, ...], works: tuple[Floats, ...], lit: Floats
) -> tuple[Floats, Floats, Floats, Floats]:
    """(Vmp, Voc, current, power) of the whole array by step [V, V, A, W].

    Panels of different kinds in one string carry the current of the weakest.
    """
    steps = len(lit)
    mean_vmp, mean_voc = np.zeros(steps), np.zeros(steps)
    watts, amps = np.zeros(steps), np.zeros(steps)
    weakest = np.full(steps, np.inf)
    strings = array.count / array.series
    for panel, light, out in zip(array.panels, lights, works, strict=True):
        plate = panel.plate
        warm = light.cell_c - STC_C
        # Both voltages move by the same volts a kelvin.
        vmp = plate.vmp_v + plate.voc_v * plate.voc_per_k * warm
        power = power_from_light(panel.power_w, plate.power_per_k, light) * out * lit
        current = plate.imp_a * light.effective / STC_W_M2 * DIRT_SHARE * MISMATCH_SHARE * out * lit
        mean_vmp += vmp * panel.count / array.count
        mean_voc += plate.voc_v * (1.0 + plate.voc_per_k * warm) * panel.count / array.count
        watts += power * panel.count
        amps += current * panel.count / array.series
        weakest = np.minimum(weakest, current)
    if array.series == 1 and not array.at_battery:
        # A tracker holds one voltage for all that lie in parallel.
        share = parallel_share(array)
        watts, amps = watts * share, amps * share
    if array.series > 1 and len(array.panels) > 1:
        held = np.divide(weakest * strings, amps, out=np.zeros(steps), where=amps > 0.0)
        watts, amps = watts * held, weakest * strings
    return mean_vmp * array.series, mean_voc * array.series, amps, watts


def lit_share(array: SunInput, grid: Grid) -> Floats:
    """(steps,) share of the light that dirt and the daily shade windows leave."""
    day = np.full(MINUTES_PER_DAY // grid.step_min, (1.0 - array.dirt) / DIRT_SHARE)
    for shade in array.shade:
        day *= 1.0 - shade.share * daily_share(shade.start_min, shade.end_min, grid.step_min)
    return np.asarray(day[grid.clock_min // grid.step_min])


PWM_OVER_V = 3.0
"""Panels that work at so much more than the battery lose by a PWM controller [textbook]."""
VOC_TOLERANCE = 0.03
"""A panel's Voc may be so much over its sheet's [common on sheets; textbook]."""


def array_volts(array: SunInput, lights: tuple[Light, ...], coldest_c: float) -> ArrayVolts:
    """The most that a string shows open (cells as cold as the air ever was), and hottest Vmp."""
    coldest = coldest_c - STC_C
    hottest = max(float(light.cell_c.max()) for light in lights) - STC_C
    voc = vmp = 0.0
    for panel in array.panels:
        share = panel.count / array.count
        plate = panel.plate
        voc += share * plate.voc_v * (1.0 + plate.voc_per_k * coldest)
        vmp += share * (plate.vmp_v + plate.voc_v * plate.voc_per_k * hottest)
    return ArrayVolts((1.0 + VOC_TOLERANCE) * voc * array.series, vmp * array.series, coldest_c)


def panels_out(array: SunInput, shares: dict[BlockKind, Floats]) -> tuple[Floats, ...]:
    """For each panel, (steps,) share of the step in which it is out in the light."""
    still = 1.0 - shares["drive"]
    return tuple(
        np.ones_like(still)
        if p.mount == "flat" and not p.portable
        else still * (shares["panel_out"] if p.portable else 1.0)
        for p in array.panels
    )


def sun_series(array: SunInput, context: SourceContext) -> SourceSeries:
    """What an array offers in the context's sky."""
    grid, air_c = context.grid, context.air_c
    lights = tuple(
        light_series(p, context.sites, grid, context.clearness, air_c) for p in array.panels
    )
    works = panels_out(array, context.shares)
    lit = lit_share(array, grid) * context.sun_share
    offer = offer_of(array, lights, works, lit, context.nominal_v)
    rating = array.controller.limit_a
    none = np.zeros(grid.steps)
    pwm = array.at_battery
    return SourceSeries(
        kind=KIND.key,
        key=array.key,
        name=array.name,
        efficiency=1.0 if pwm else array.controller.efficiency,
        rating_a=rating,
        could_w=np.full(grid.steps, UNLIMITED_W) if pwm else offer.could_w,
        could_a=offer.offer_a,
        offer_w=np.full(grid.steps, UNLIMITED_W) if pwm else offer.offer_w,
        limit_a=np.minimum(np.where(offer.raw_w > 0.0, rating, 0.0), offer.offer_a),
        on=(offer.raw_w > 0.0).astype(np.float64),
        barred=none,
        raw_w=offer.raw_w,
        wire_w=offer.wire_w,
        source_v=none,
        pwm=pwm,
        noisy=array.noisy,
        profile=array.profile,
        volts=array_volts(array, lights, context.coldest_c),
    )
