"""The result document: what a run says, by day and in all, ready for JSON."""

from __future__ import annotations

import datetime
from typing import Annotated, Literal

from pydantic import Field

from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.units.quantity import charge
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import JudgementReport
from oddkettle.results.odds import OddsReport

Sky = Literal["expected", "worst", "middling", "best"]
"""Which scenario is looked at: the expected one, or one that stands for its tenth of them."""
SourceKindKey = Annotated[str, Field(json_schema_extra={"enum": list(SOURCE_KINDS)})]
"""A key of the registry of source kinds."""


class Amount(LazyModel):
    """The same flow in both units, measured at the bus."""

    ah: float
    wh: float

    def __str__(self) -> str:
        """As it stands in a sentence."""
        return charge(self.ah, self.wh)


class Range(LazyModel):
    """Between two figures."""

    low: float
    high: float

    @classmethod
    def of(cls, span: tuple[float, float]) -> Range:
        """From a pair, the lower first."""
        return cls(low=span[0], high=span[1])


class SourceReport(LazyModel):
    """One charge source over a day or the trip."""

    key: str
    kind: SourceKindKey
    name: str
    limit_a: float
    offered: Amount
    """What the source could have put in."""
    barred: Amount
    """Kept away by a selector, quiet hours, or use of a ready-made unit."""
    clipped: Amount
    """Held back by its charger's limits, its feed, or a limit that it shares."""
    spilled: Amount
    """Passed the charger, but the battery was full or could take no more."""
    frozen: Amount
    """Of what was spilled, refused because the battery was too cold to be charged."""
    taken: Amount
    conversion_wh: float
    """Heat in its charger."""
    wiring_wh: float
    """Heat in its cable."""


class DrawReport(LazyModel):
    """One appliance over a day or the trip."""

    key: str
    name: str
    used: Amount
    lost_wh: float
    """Share of `used` that its converter turned into heat."""
    unmet: Amount
    """What it asked for while it was switched off by level or cut-out."""
    moved: Amount
    """What the vehicle carried for it."""


class Losses(LazyModel):
    """Where energy went that did no work."""

    coulombic: Amount
    """Charge that went in and does not come back."""
    leaked: Amount
    """Self-discharge."""
    resistance_wh: float
    lag_wh: float
    """Voltage held back by the slow well of a lead battery; near nil for lithium."""
    chargers_wh: float
    """Heat in the chargers, before the bus."""
    wiring_wh: float
    """Heat in the cables to the chargers, before the bus."""
    converters_wh: float
    """Heat in USB converters and the inverter, part of what appliances used."""


class Period(LazyModel):
    """The ledger of a day or of the trip: taken = used + stored + lost in the battery."""

    sources: list[SourceReport]
    draws: list[DrawReport]
    taken: Amount
    used: Amount
    stored: Amount
    lost: Losses
    net: Amount
    """Taken less used: what the day added to the battery before its losses."""
    spilled_sun: Amount
    unmet: Amount


class DayReport(Period):
    """One day of the trip."""

    date: datetime.date
    first_step: int
    steps: int
    minutes: int
    """Length of the day: 1440 but for days on which the clocks change."""
    sunrise_min: float | None
    sunset_min: float | None
    sun_up_all_day: bool
    clearness: float
    start_percent: float
    end_percent: float
    lowest_percent: float
    lowest_at: str
    """Local time, ISO 8601 with offset."""
    below_floor_min: float
    air_low_c: float
    air_high_c: float
    battery_low_c: float
    battery_high_c: float


class InstantReport(Period):
    """The flows at one step. Amounts are rates: A in place of Ah, W in place of Wh."""

    step: int
    at: str
    level_percent: float
    second_percent: float | None
    volts: float
    battery_c: float


class Series(LazyModel):
    """The whole run, one value a step; `level_percent` has one more, at the end.

    Currents are at the bus and positive; net_a is positive into the bank.
    """

    first_utc: str
    step_min: int
    level_percent: list[float]
    volts: list[float]
    net_a: list[float]
    load_a: list[float]
    taken_a: dict[str, list[float]]
    """By the source's key, in the order in which sources are let in."""
    hours_to_floor: list[float | None]
    """None where the floor is not reached before the end."""
    battery_c: list[float]
    second_percent: list[float] | None
    """Level of the second bank, where there is one."""


class Autonomy(LazyModel):
    """How long the box lasts from a moment on when no source gives anything."""

    step: int
    hours: float | None
    """None when it stands for 60 days."""


class ChargerReport(LazyModel):
    """What a source did over the whole trip, besides its amounts."""

    key: str
    kind: SourceKindKey
    name: str
    bulk_h: float
    absorption_h: float
    float_h: float
    starved_h: float
    """Hours in which its feed held it under its rating."""
    cold_voc_v: float | None
    hot_vmp_v: float | None


class AgeingReport(LazyModel):
    """What the trip takes from the battery's life."""

    full_cycles: float
    deepest_percent: float
    cycle_share_percent: float
    calendar_share_percent: float
    life_percent: Range
    """Between which shares of its life the trip takes: the larger of the two, and its doubt."""


class Outage(LazyModel):
    """How long it stands without any source, over the scenarios: from `step` to the reserve."""

    step: int
    worst_h: float
    """The worst of ten."""
    middle_h: float | None
    """The middle one; None where the trip ends before."""


class Endurance(LazyModel):
    """Results beyond the level: chargers' stages, time full, autonomy, cold, wear."""

    chargers: list[ChargerReport]
    last_full_at: str | None
    locked_h: float
    """Hours in which a source offered and the cold barred charging."""
    heater: Amount
    heater_night: Amount | None
    """What the pads take in the dearest night, from noon to noon."""
    autonomy: list[Autonomy]
    shortest_autonomy: Autonomy | None
    """In the expected run, over its marks."""
    outage: Outage | None
    """The same in the worst of ten scenarios; None of a box that does not stand by for outages."""
    ageing: AgeingReport


class BankReport(LazyModel):
    """The bank as it was run."""

    chemistry: str
    name: str
    capacity_ah: float
    nominal_v: float
    nominal: Amount
    usable: Amount
    """Between full and the plan's floor."""
    charge_limit_a: float
    absorption_v: float
    float_v: float
    healthy_floor_percent: float
    mass_kg: float
    cells: float
    step_min: int
    lowest_c: float
    highest_c: float


class UseDraw(LazyModel):
    """One appliance's average day."""

    key: str
    name: str
    a_day: Amount
    running_a: float
    lost_wh: float
    profile_a: list[float] = Field(description="average current by step from local midnight")


class UsePart(LazyModel):
    """Something in the day's use."""

    key: str
    name: str
    a_day: Amount


class UseReport(LazyModel):
    """The average day of all appliances."""

    a_day: Amount
    peak_a: float
    peak_min: int
    """Minutes after midnight at which the peak begins."""
    night_percent: float
    """Share of use while the sun is down on the first day."""
    guess_percent: float
    """Share of use that rests on guesses."""
    bus_v: float
    """Mean bus voltage while things were used, by which watts became amps."""
    draws: list[UseDraw]
    standby: list[UsePart]
    """What does no work of its own: waiting, idling, watching."""
    standby_a_day: Amount
    spread: Amount
    """How far off the day's use may be while guesses stand, both ways."""


class MendReport(LazyModel):
    """An extra drive that would keep the plan above its floor."""

    day: int
    start: str
    end: str
    minutes: int
    lowest_percent: float
    lasts_percent: float | None
    """How often the box would last then, where odds were asked for."""
    text: str


class Verdict(LazyModel):
    """The answer in words, and the numbers behind it."""

    lasts: bool
    headline: str
    detail: str
    lowest_percent: float
    lowest_at: str
    lowest_day: int
    first_below_at: str | None
    below_floor_min: float
    mend: MendReport | None


class SourceLimit(LazyModel):
    """The number that holds one source back, in words."""

    key: str
    text: str
    binds: bool
    """True when a larger charger would let more in."""


class Bottleneck(LazyModel):
    """What holds the box back over the whole trip, in words."""

    headline: str
    detail: str


class RunReport(LazyModel):
    """The result document of one run."""

    headline: str
    """The answer: how often it lasts, or, where that is sure or not asked, what is expected."""
    verdict: Verdict
    bottleneck: Bottleneck
    bank: BankReport
    use: UseReport
    limits: list[SourceLimit]
    total: Period
    days: list[DayReport]
    endurance: Endurance
    judgements: list[JudgementReport] | None
    """The gravest first; only with advice."""
    sky: Sky
    """The future that was run: the expected one, or one that stands for its tenth of them."""
    odds: OddsReport | None
    """What the scenarios say, where they were asked for."""
    series: Series | None
    rest: OddsReport | None = None
    """On a trip under way: what they say of its rest, from where the battery stands. The last
    field, for it is put into a report that is kept written out."""
