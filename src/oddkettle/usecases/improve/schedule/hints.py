"""Hints for one day: how to lay each panel that can be moved, and the best hour for the drive."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.sources.aiming import Aim, best_aims
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import SunInput, lit_share
from oddkettle.core.trip.grid import Grid, clock_text, daily_share
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.core.units.quantity import clock
from oddkettle.core.weather.clear_sky import Sky, trip_sky, under_clearness
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel, clock_minutes
from oddkettle.plan.trip import BlockModel
from oddkettle.results.run import Amount
from oddkettle.text.words import day_words
from oddkettle.usecases.field.track.tracked_trip import (
    TrackedTrip,
    first_midnight,
    follow,
    rest_with,
)
from oddkettle.usecases.simulate.run_cache import run_plan

TURNS = 3
"""Parts of a day for a panel that is turned by hand [judgement]."""
PATH_MIN = 30
EARLIEST_H, LATEST_H = 7, 19
"""Hours of the day between which a drive is moved [judgement]: nobody is sent off by night."""
ENOUGH_AH = 0.5
"""A better hour is told of from here on."""
FEW = 24
DIRECTIONS = (
    "north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west",
)  # fmt: skip


class Turn(LazyModel):
    """How a panel lies best from one clock time to another."""

    start: str
    end: str
    faces: str
    tilt_deg: int
    worth: Amount
    """More than as it lies by the plan, if the battery can take it."""
    text: str


class ShadeHours(LazyModel):
    """Hours in which something stands before the sun."""

    start: str
    end: str
    percent: float


class SunMark(LazyModel):
    """Where the sun stands at a clock time."""

    minute: int
    azimuth_deg: float
    height_deg: float


class PanelDay(LazyModel):
    """One panel that can be moved, over a day."""

    name: str
    turns: list[Turn]
    shade: list[ShadeHours]
    text: str


class DriveHour(LazyModel):
    """A drive of the day at a better hour."""

    block: str
    start: str
    was: str
    worth: Amount
    text: str


class DayHints(LazyModel):
    """What would make the day better."""

    day: str
    sun: list[SunMark]
    panels: list[PanelDay]
    drive: DriveHour | None


def hints_of(plan_id: int) -> DayHints:
    """Hints for the day that is under way. Raises PlanRefused, NoSuchPlan."""
    here = follow(plan_id)
    grid = run_plan(here.plan).grid
    first, last = int(grid.day_starts[here.day]), int(grid.day_starts[here.day + 1])
    sky = trip_sky(here.case.sites, grid)
    day_sky = _part(sky, first, last)
    return DayHints(
        day=day_words(first_midnight(here.plan) + timedelta(days=here.day)),
        sun=_path(day_sky, grid.clock_min[first:last]),
        panels=_panels(here, grid, under_clearness(day_sky, _clearness(here, last - first))),
        drive=_drive(here),
    )


def _clearness(here: TrackedTrip, steps: int) -> NDArray[np.float64]:
    return np.full(steps, here.case.clearness[here.day])


def _part(sky: Sky, first: int, last: int) -> Sky:
    parts = {name: getattr(sky, name)[first:last] for name in sky.__dataclass_fields__}
    return replace(sky, **parts)


def _path(sky: Sky, clock_min: NDArray[np.int64]) -> list[SunMark]:
    up = np.flatnonzero((sky.zenith_deg < 90.0) & (clock_min % PATH_MIN == 0))
    return [
        SunMark(
            minute=int(clock_min[k]),
            azimuth_deg=float(sky.azimuth_deg[k]),
            height_deg=float(90.0 - sky.zenith_deg[k]),
        )
        for k in up
    ]


def _panels(here: TrackedTrip, grid: Grid, sky: Sky) -> list[PanelDay]:
    first, last = (int(grid.day_starts[here.day + n]) for n in (0, 1))
    out = _out(here.plan, here.day, grid)
    found = []
    for array in here.case.sun:
        names = _names(here.plan, array)
        lit = lit_share(array, grid)[first:last]
        for name, panel in zip(names, array.panels, strict=True):
            if not (panel.portable or panel.mount == "aimed"):
                # It is screwed to something: nobody turns it.
                continue
            works = lit * (out if panel.portable else 1.0)
            air = np.full(last - first, here.case.high_c[here.day % len(here.case.high_c)])
            aims = best_aims(
                panel, sky, air, works, panel.aims if panel.mount == "aimed" else TURNS, grid.step_h
            )
            found.append(_panel(name, panel, array, aims, grid, first, here.case.bank.nominal_v))
    return found


def _names(plan: Plan, array: SunInput) -> list[str]:
    model = next(one for one in plan.box.sun if one.id == array.key)
    return [panel.name for panel in model.panels if panel.on]


def _out(plan: Plan, day: int, grid: Grid) -> NDArray[np.float64]:
    """(steps of the day,) when a folding panel is out; in all light where no hours stand."""
    first, last = int(grid.day_starts[day]), int(grid.day_starts[day + 1])
    slot = grid.clock_min[first:last] // grid.step_min
    share = np.zeros(MINUTES_PER_DAY // grid.step_min)
    for block in plan.trip.blocks:
        if block.kind == "panel_out" and block.day == day:
            end = MINUTES_PER_DAY if block.end_day not in (None, day) else clock_minutes(block.end)
            share += daily_share(clock_minutes(block.start), end, grid.step_min)
    return np.asarray(np.minimum(share, 1.0)[slot] if share.any() else np.ones(last - first))


def _panel(
    name: str,
    panel: Panel,
    array: SunInput,
    aims: tuple[Aim, ...],
    grid: Grid,
    first: int,
    nominal_v: float,
) -> PanelDay:
    turns = []
    for aim in aims:
        wh = (aim.wh - aim.lying_wh) * array.controller.efficiency
        start = int(grid.clock_min[first + aim.first])
        end = int(grid.clock_min[first + aim.last - 1]) + grid.step_min
        worth = Amount(ah=wh / nominal_v, wh=wh)
        faces = DIRECTIONS[aim.azimuth_deg // 45]
        lies = "flat" if aim.tilt_deg == 0 else f"facing {faces}, leaning {aim.tilt_deg}°"
        more = f"{worth} more" if worth.ah >= 0.1 else "as it lies is as good"
        turns.append(
            Turn(
                start=clock_text(start),
                end=clock_text(end),
                faces=faces,
                tilt_deg=aim.tilt_deg,
                worth=worth,
                text=f"{clock(start)} to {clock(min(end, MINUTES_PER_DAY))}: {lies} ({more})",
            )
        )
    shade = [
        ShadeHours(start=clock_text(s.start_min), end=clock_text(s.end_min), percent=100 * s.share)
        for s in array.shade
    ]
    whole = Amount(ah=sum(t.worth.ah for t in turns), wh=sum(t.worth.wh for t in turns))
    if not turns:
        text = f"There is no sun on {name} today."
    elif panel.mount == "aimed":
        text = f"Turn {name} {len(turns)} times today, as the plan has it."
    elif whole.ah < ENOUGH_AH:
        text = f"Turning {name} brings next to nothing today."
    else:
        text = f"Turning {name} so brings about {whole} more today, if the battery can take it."
    return PanelDay(name=name, turns=turns, shade=shade, text=text)


def _drive(here: TrackedTrip) -> DriveHour | None:
    """The day's next drive at the hour at which the battery holds most at the next dawn."""
    local = here.now.astimezone(first_midnight(here.plan).tzinfo)
    now_min = local.hour * 60 + local.minute
    ahead = [
        b
        for b in here.plan.trip.blocks
        if b.kind == "drive"
        and b.day == here.day
        and clock_minutes(b.start) > now_min
        and b.end_day in (None, b.day)
    ]
    if not ahead or not here.case.vehicle:
        return None
    block = min(ahead, key=lambda b: b.start)
    length = clock_minutes(block.end) - clock_minutes(block.start)
    stands = _at_dawn(here, here.plan)
    best, gained = block, 0.0
    for hour in range(max(EARLIEST_H, local.hour + 1), LATEST_H):
        if hour * 60 + length > MINUTES_PER_DAY:
            break
        moved = block.model_copy(
            update={"start": clock_text(hour * 60), "end": clock_text(hour * 60 + length)}
        )
        more = _at_dawn(here, _with_block(here.plan, moved)) - stands
        if more > gained:
            best, gained = moved, more
    ah = gained * here.case.bank.capacity_ah
    if ah < ENOUGH_AH:
        return None
    worth = Amount(ah=ah, wh=ah * here.case.bank.nominal_v)
    return DriveHour(
        block=block.id,
        start=best.start,
        was=block.start,
        worth=worth,
        text=f"The drive is worth about {worth} more at {clock(clock_minutes(best.start))} than at "
        f"{clock(clock_minutes(block.start))}, by the level at the next dawn.",
    )


def _with_block(plan: Plan, moved: BlockModel) -> Plan:
    blocks = [moved if b.id == moved.id else b for b in plan.trip.blocks]
    return plan.model_copy(update={"trip": plan.trip.model_copy(update={"blocks": blocks})})


def _at_dawn(here: TrackedTrip, variant: Plan) -> float:
    """The mean level at six on the next morning, or at the trip's end."""
    rest = rest_with(here, variant, FEW)
    dawn = min(here.day + 1, rest.grid.days)
    step = int(rest.grid.day_starts[dawn])
    if dawn < rest.grid.days:
        step += round(6 / rest.grid.step_h)
    return float(np.nanmean(rest.level[:, min(step, rest.level.shape[1] - 1)]))
