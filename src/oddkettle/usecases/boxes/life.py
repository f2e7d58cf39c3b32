"""A box's life: its trips and nights, what they took from it, its capacity over the seasons."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.plan.box import CapacityReading
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.run import Range
from oddkettle.store import boxes as store
from oddkettle.usecases.boxes.boxes import parts_of, when_of
from oddkettle.usecases.plans.plans import OpenPlan, open_plan, save_plan
from oddkettle.usecases.simulate.run_cache import run_plan
from oddkettle.usecases.simulate.run_report import report_plan

WORN_SHARE = 0.8
"""Of its first capacity, at which a battery is usually called worn."""
APART_DAYS = 60
"""Readings closer together than this show no trend [judgement]."""
FAR_YEARS = 30
TEST_SD, BEATS = 0.03, 1.28
"""A capacity test is good to some 3 % [judgement: 2 to 5]; a trend is told once it is outside the
middle 80 % of what such errors make by themselves."""


class TripWear(LazyModel):
    """What one trip took from the battery, as planned."""

    plan_id: int
    name: str
    start: date
    nights: int
    full_cycles: float
    life_percent: Range
    """Between which shares of its life."""
    past: bool


class BoxLife(LazyModel):
    """The life of a box, and how sure the date of its end is."""

    name: str
    trips: list[TripWear]
    nights: int
    full_cycles: float
    life_percent: Range
    """Between which shares of its life."""
    """Of the cycles and years that such a battery has, taken by the trips that are over."""
    label_ah: float
    readings: list[CapacityReading]
    percent_a_year: float | None
    """How fast it loses capacity, by its readings; None while they show no trend."""
    worn_on: date | None
    text: str


def life_of(box_id: int) -> BoxLife:
    """The life of a box. Raises NoSuchBox."""
    box = store.load(box_id)
    opened = [open_plan(plan_id) for plan_id in box.plan_ids]
    trips = sorted((_wear(plan) for plan in opened), key=lambda trip: trip.start)
    past = [trip for trip in trips if trip.past]
    parts, _ = parts_of(box)
    readings = sorted(parts.readings, key=lambda reading: reading.on)
    label = parts.battery.capacity_ah * parts.battery.parallel
    slope, worn_on = trend(readings)
    years = CHEMISTRIES[parts.battery.chemistry].life.years()
    return BoxLife(
        name=box.name,
        trips=trips,
        nights=sum(trip.nights for trip in past),
        full_cycles=sum(trip.full_cycles for trip in past),
        life_percent=Range(
            low=sum(trip.life_percent.low for trip in past),
            high=sum(trip.life_percent.high for trip in past),
        ),
        label_ah=label,
        readings=readings,
        percent_a_year=slope,
        worn_on=worn_on,
        text=_text(readings, slope, worn_on, years),
    )


def add_reading(box_id: int, reading: CapacityReading) -> BoxLife:
    """Write a capacity reading into the box, through its newest trip. Raises NoSuchBox."""
    box = store.load(box_id)
    newest = max((open_plan(n) for n in box.plan_ids), key=lambda plan: plan.revision)
    parts, build = parts_of(box)
    kept = [*(r for r in parts.readings if r.on != reading.on), reading]
    told = parts.model_copy(update={"readings": sorted(kept, key=lambda r: r.on)})
    plan = newest.document.model_copy(update={"box": told, "build": build})
    said = f"capacity of {reading.capacity_ah:g} Ah on {reading.on:%d %b %Y}"
    save_plan(newest.id, newest.revision, plan, said)
    return life_of(box_id)


def trend(readings: list[CapacityReading]) -> tuple[float | None, date | None]:
    """(loss in percent of the first reading a year, day on which 80 % of it are left).

    By least squares through the readings; (None, None) while they are too few, too close together,
    or while what they fall by is within their own errors; no day where they do not fall.
    """
    if len(readings) < 2 or not _apart(readings):
        return None, None
    years = np.array([(r.on - readings[0].on).days / 365.25 for r in readings])
    share = np.array([r.capacity_ah / readings[0].capacity_ah for r in readings])
    slope, start = np.polyfit(years, share, 1)
    error = TEST_SD / float(np.sqrt(((years - years.mean()) ** 2).sum()))
    if abs(slope) < BEATS * error:
        return None, None
    if slope >= 0.0:
        return 0.0, None
    reached = (WORN_SHARE - start) / slope
    if reached > FAR_YEARS:
        return -100 * float(slope), None
    return -100 * float(slope), readings[0].on + timedelta(days=round(365.25 * max(reached, 0.0)))


def _apart(readings: list[CapacityReading]) -> bool:
    """Whether the first and the last are far enough apart to show a trend."""
    return (readings[-1].on - readings[0].on).days >= APART_DAYS


def _wear(opened: OpenPlan) -> TripWear:
    plan = opened.document
    ageing = report_plan(plan, series=False, advice=False).endurance.ageing
    nights = run_plan(plan, "expected").case.nights or len(plan.trip.days)
    return TripWear(
        plan_id=opened.id,
        name=plan.name,
        start=plan.trip.start,
        nights=nights,
        full_cycles=ageing.full_cycles,
        life_percent=ageing.life_percent,
        past=when_of(opened) == "over",
    )


def _text(
    readings: list[CapacityReading],
    slope: float | None,
    worn_on: date | None,
    years: tuple[float, float],
) -> str:
    if not readings:
        return (
            "No capacity was measured yet. The Log page leads through a test; one a year shows "
            "how it wears. Such a battery is usually good for "
            f"{years[0]:.0f} to {years[1]:.0f} years."
        )
    if slope is None and len(readings) > 1 and _apart(readings):
        return (
            f"From {readings[0].capacity_ah:g} to {readings[-1].capacity_ah:g} Ah is no more than "
            f"such a test is off by itself (some {100 * TEST_SD:.0f} %): too early to say how it "
            "wears."
        )
    if slope is None:
        return "One more capacity test, two months later or more, will show how it wears."
    if worn_on is None:
        return f"Its capacity falls by {slope:.1f} % a year: no end is in sight."
    return (
        f"Its capacity falls by {slope:.1f} % a year. At that pace 80 % of it are left in "
        f"{worn_on:%B %Y}."
    )
