"""What runs, when, and how it is powered."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from oddkettle.core.loads.bursts import Bursts
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.loads.logger import Logger
from oddkettle.core.loads.radio import Radio
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.quantity import celsius
from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import LONGEST_TRIP_DAYS, Key, Name, Part, Where


class Hours(Part):
    """Daily hours on the local clock. They may pass midnight; equal ends mean all day."""

    start: q.ClockTime
    end: q.ClockTime


class FridgePattern(Part):
    """A compressor box whose duty follows the air: it holds at the reference temperature."""

    type: Literal["fridge"] = "fridge"
    set_c: q.FridgeCelsius = 4
    reference_c: q.Celsius = 25
    duty_set_c: q.FridgeCelsius = 4
    """What it was set to where its duty was told or measured; the thermostat does not move it."""
    warmer_k: q.Kelvins = 0
    """How much warmer its place is than the air outside."""
    room_c: q.Celsius | None = None
    """Its place is heated, and never colder than this."""
    lid_percent: q.SharePercent = 10
    """What openings and warm goods add."""
    cycle_min: q.CycleMinutes = 40

    def to_core(self, name: str, where: Where) -> Fridge:
        """What the core runs. Raises PlanError where it would be set above its reference."""
        if self.reference_c <= self.duty_set_c:
            raise PlanError(
                f"{name} was set to {celsius(self.duty_set_c)} where its duty was told, and it was "
                f"{celsius(self.reference_c)} outside.",
                where=(*where, "pattern", "reference_c"),
                value=self.reference_c,
                limit=f"above {celsius(self.duty_set_c)}",
                remedy=f"Give the duty at a warmer temperature outside, often {celsius(25)}.",
            )
        lid = self.lid_percent / 100
        return Fridge(
            self.set_c,
            self.reference_c,
            self.warmer_k,
            lid,
            self.cycle_min,
            self.duty_set_c,
            self.room_c,
        )


class RadioPattern(Part):
    """A transceiver: the appliance's power while sending."""

    type: Literal["radio"] = "radio"
    receive_w: q.SmallWatts = 5
    transmit_percent: q.SharePercent = 20

    def to_core(self, name: str, where: Where) -> Radio:
        """What the core runs."""
        return Radio(self.receive_w, self.transmit_percent / 100)


class BurstsPattern(Part):
    """Runs of some minutes, spread over its hours."""

    type: Literal["bursts"] = "bursts"
    times_a_day: q.TimesADay = 6
    minutes: q.BurstMinutes = 2

    def to_core(self, name: str, where: Where) -> Bursts:
        """What the core runs."""
        return Bursts(self.times_a_day, self.minutes)


class LoggerPattern(Part):
    """Sleeps, and wakes for some seconds at the appliance's power."""

    type: Literal["logger"] = "logger"
    sleep_w: q.SmallWatts = 0.02
    events_a_day: q.TimesADay = 96
    seconds: q.WakeSeconds = 10

    def to_core(self, name: str, where: Where) -> Logger:
        """What the core runs."""
        return Logger(self.sleep_w, self.events_a_day, self.seconds)


Pattern = FridgePattern | RadioPattern | BurstsPattern | LoggerPattern
"""Every way to run; a new one is a class here and one in the core."""


class FlexibleRun(Part):
    """When a flexible load runs on one day."""

    day: q.DayIndex
    start: q.ClockTime
    fixed: bool = False
    """Chosen by its user: no schedule moves it."""


class Flexible(Part):
    """A load that runs so long at any time within its hours."""

    minutes: q.RunMinutes = 120
    """How long it runs, in one go."""
    each: Literal["day", "trip"] = "day"
    """Every day, or once on the trip."""
    by_day: q.DayIndex | None = None
    """Of one that runs once: the day on which it must be done; the last one when absent."""
    while_driving: bool = False
    """On days with a drive within its hours it runs while the engine does."""
    runs: list[FlexibleRun] = Field(default=[], max_length=LONGEST_TRIP_DAYS)
    """When it runs; as soon as its hours begin on days for which none is given."""


class ApplianceModel(Part):
    """One appliance."""

    id: Key
    name: Name
    power_w: q.LoadWatts
    """Power while it runs, at its own plug."""
    supply: Literal["12v", "usb", "inverter"] = "12v"
    hours: list[Hours] = Field(min_length=1, max_length=12)
    drive_hours: list[Hours] | None = Field(default=None, max_length=12)
    """Hours on driving days; those above when absent, not at all when empty."""
    rest_hours: list[Hours] | None = Field(default=None, max_length=12)
    """Hours on rest days; those above when absent, not at all when empty."""
    flexible: Flexible | None = None
    """So many minutes at any time within its hours, instead of all of them."""
    duty_percent: q.DutyPercent = 100
    """Share of its hours in which it really runs; a compressor's cycles, for one."""
    figure: Literal["measured", "learned", "guess"] = "guess"
    """Learned is what a log's readings made likely: no measurement of it."""
    spread_percent: q.SpreadPercent = 25
    """How far off a guess or what was learned may be, both ways."""
    pattern: Annotated[Pattern, Field(discriminator="type")] | None = None
    draw: Literal["power", "resistance", "current"] = "power"
    """How it behaves as the voltage moves, on 12 V."""
    standby_w: q.SmallWatts = 0
    """Drawn whenever it does not run."""
    surge_w: q.SurgeWatts = 0
    """Taken for a moment when it starts."""
    priority: Literal["first", "wanted", "must"] = "wanted"
    """Which go first when the level falls."""
    on_vehicle: bool = False
    """It hangs on the vehicle's own socket while the engine runs."""
    noisy: bool = False
    """It makes radio noise, and is off in quiet hours."""
    adapter: bool = False
    """On the inverter: it is a USB or 12 V device behind a mains adapter of its own."""
    medical: bool = False
    """Somebody's health hangs on it."""
    takes_24v: bool = False
    """On 12 V: its label says 12/24 V, so that it may hang on a 24 V box."""
    backup: bool = False
    """Of a medical one: there is a second source for it that needs none of this box, tried out."""
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""

    @model_validator(mode="before")
    @classmethod
    def _medical_means_must(cls, data: object) -> object:
        """Plans of before 2026-12 may hold a medical one of another priority: it goes never."""
        if isinstance(data, dict) and data.get("medical") is True:
            return {**data, "priority": "must"}
        return data


class Shedding(Part):
    """Levels at which loads are switched off before the box cuts out."""

    first_percent: q.LevelPercent | None = None
    wanted_percent: q.LevelPercent | None = None


class Use(Part):
    """All appliances, in the order in which they are listed."""

    appliances: list[ApplianceModel] = Field(default=[], max_length=60)
    quiet_hours: list[Hours] = Field(default=[], max_length=6)
    """Daily hours in which what makes radio noise is off."""
    shedding: Shedding = Shedding()
