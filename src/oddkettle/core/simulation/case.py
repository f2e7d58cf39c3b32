"""All that one run needs, in the core's own terms."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import date
from typing import Literal

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.label_share import level_from_shown
from oddkettle.core.battery.temperature import Heater
from oddkettle.core.loads.converter import Converter
from oddkettle.core.loads.demand import Appliance, DayKind, Inverter, Priority, Window
from oddkettle.core.loads.overrides import LoadOverride
from oddkettle.core.simulation.own_wiring import Wiring
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import SunInput
from oddkettle.core.sources.source_series import ChargeSource
from oddkettle.core.trip.grid import Block, Site
from oddkettle.core.weather.record_low import record_low_c
from oddkettle.core.weather.weather_generator import Doubt, Prospect


@dataclass(frozen=True)
class SecondBank:
    """Another bank in parallel, on the bus in "second_bank" blocks or `always`."""

    bank: Bank
    soc0: float
    always: bool = False


@dataclass(frozen=True)
class Surroundings:
    """What only the judgements look at: where the bank stands, and whether it is all alike."""

    place: Literal["aired", "living", "engine"] = "aired"
    metal: bool = False
    posts_covered: bool = True
    alike: bool = True
    vents: bool = True
    """The box has the openings that the tool proposes."""
    battery_apart: bool = False
    """The bank stands in a box of its own."""
    grommets: bool = True
    """Cables pass its walls in grommets or glands."""
    unlike_ages: bool = False
    """A second bank is told to be much older or younger."""


@dataclass(frozen=True)
class LoadOutput:
    """A solar controller's own output for loads, with a switch that goes by the battery's volts.

    `source` is the array whose controller has it; it gives `limit_a` [A] and is off from `off_v`
    down until `on_v` up [V at the battery]. `appliances` hang on it.
    """

    source: str
    limit_a: float
    off_v: float
    on_v: float
    appliances: tuple[str, ...] = ()


AT_FLOOR = 5e-4
"""A level this little under the reserve reads the same to a tenth of a percent, and scenarios'
single-precision numbers tell no closer."""


@dataclass(frozen=True)
class Case:
    """A box on a trip.

    `clearness`, `low_c` and `high_c` have one value a day (a single value of temperature holds
    for all); `soc0` and `floor` are 0..1. `standby` boxes have mains but for outages. `order`
    names sources as they are let in. `shed` is the level at which loads of a priority go.
    `day_kinds` has one kind a day, or none where all are alike; `day_sites` one site a day, or
    none where all days are at `site`, whose clock the whole trip keeps. `prospects`, one a day,
    tell what is known of the weather beforehand (`kind_of_place` names the climate it is from,
    where one was chosen from the list); `clearness`, `low_c` and `high_c` are what is
    expected of it. `record_low_c` is the coldest that its owner knows of the place in that season.
    `doubt` says how unsure the rest is. `overrides` are what did not go as
    planned, where the trip is under way. `wiring` is what its owner fixed of its circuits; no run
    depends on it.
    """

    bank: Bank
    profile: Profile
    sources: tuple[ChargeSource, ...]
    inverter: Inverter | None
    appliances: tuple[Appliance, ...]
    site: Site
    first_day: date
    clearness: tuple[float, ...]
    blocks: tuple[Block, ...]
    soc0: float
    floor: float
    step_min: int
    low_c: tuple[float, ...] = (15.0,)
    high_c: tuple[float, ...] = (15.0,)
    record_low_c: float | None = None
    second: SecondBank | None = None
    heater: Heater | None = None
    converter: Converter | None = None
    joining: Coupling = Coupling()
    load_output: LoadOutput | None = None
    unit: ReadyMade | None = None
    order: tuple[str, ...] = ()
    quiet: tuple[Window, ...] = ()
    shed: dict[Priority, float] = field(default_factory=dict)
    standby: bool = False
    day_kinds: tuple[DayKind, ...] = ()
    surroundings: Surroundings = Surroundings()
    wiring: Wiring = Wiring()
    day_sites: tuple[Site, ...] = ()
    prospects: tuple[Prospect, ...] = ()
    kind_of_place: str | None = None
    doubt: Doubt = Doubt()
    overrides: tuple[LoadOverride, ...] = ()
    away: tuple[tuple[int, int], ...] = ()
    """UTC seconds, from and up to, in which the box is not in use and nothing runs."""

    @property
    def nights(self) -> int | None:
        """Nights of a trip that begins or ends within a day; None for one of whole days."""
        return self.days - 1 if self.away and self.days > 1 else None

    @property
    def coldest_c(self) -> float:
        """The coldest that place and season have been: as told, or by its usual nights."""
        usual = record_low_c(min(self.low_c))
        return usual if self.record_low_c is None else self.record_low_c

    @property
    def content(self) -> float:
        """What the battery holds as a share of its label, 0..1, as far as one knows."""
        return self.bank.share * self.doubt.capacity_mean

    @property
    def holds_ah(self) -> float:
        """What the battery holds [Ah], as far as one knows."""
        return self.bank.capacity_ah * self.content

    @property
    def begins_at(self) -> float:
        """Level 0..1 at the start, expected: `soc0` is what a monitor shows."""
        return max(float(level_from_shown(self.soc0, self.content)), 0.0)

    @property
    def fails_below(self) -> float:
        """Level 0..1 under which the reserve is broken: standing at it is not under it."""
        return self.floor - AT_FLOOR

    @property
    def usable_ah(self) -> float:
        """What comes out between full and the reserve [Ah]: of a unit what its inside leaves."""
        share = 1.0 if self.unit is None else self.unit.usable
        return self.bank.usable_ah(self.floor) * self.content * share

    @property
    def banks(self) -> tuple[Bank, ...]:
        """The bank, and the one that joins it."""
        return (self.bank,) if self.second is None else (self.bank, self.second.bank)

    @property
    def days(self) -> int:
        """Days of the trip."""
        return len(self.clearness)

    def with_sources(self, group: str, sources: tuple[ChargeSource, ...]) -> Case:
        """The same box with other sources of one kind."""
        others = tuple(source for source in self.sources if source.group != group)
        return replace(self, sources=tuple(sorted((*others, *sources), key=_place)))

    @property
    def sun(self) -> tuple[SunInput, ...]:
        """Its arrays."""
        return tuple(source for source in self.sources if isinstance(source, SunInput))

    @property
    def vehicle(self) -> tuple[DcDc | Relay, ...]:
        """Its chargers on a vehicle."""
        return tuple(source for source in self.sources if isinstance(source, DcDc | Relay))

    @property
    def mains(self) -> tuple[MainsCharger, ...]:
        """Its mains chargers."""
        return tuple(source for source in self.sources if isinstance(source, MainsCharger))

    @property
    def sites(self) -> tuple[Site, ...]:
        """One site a day, or one for all."""
        return self.day_sites or (self.site,)


def _place(source: ChargeSource) -> int:
    return SOURCE_KINDS[source.group].place
