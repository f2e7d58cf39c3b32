"""What is cheapest to do about a level that falls: each thing is run before it is told."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from oddkettle.core.estimation.remainder import run_rest
from oddkettle.core.loads.essential import may_be_cut
from oddkettle.core.loads.overrides import LoadOverride
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.trip.grid import Block
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.core.units.quantity import charge, clock
from oddkettle.usecases.field.track.tonight import level_until
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, first_midnight
from oddkettle.usecases.simulate.run_cache import run_plan

ENOUGH = 0.1
"""It is enough where the level goes under in no more than the worst trip of ten."""
WORTH_WH = 5.0
"""What takes less until the night ends is not worth switching off [judgement]."""
MAX_SKIPS = 3
DRIVES_MIN = (15, 30, 45, 60, 90, 120, 180)
SOON_MIN = 15
BY_H = 21
"""A drive is looked for before nine in the evening, while that is ahead."""


@dataclass(frozen=True)
class Skip:
    """An appliance that could stay off until the night ends, and what that saves [Wh]."""

    key: str
    name: str
    wh: float


def remedy_for(here: TrackedTrip, until: datetime) -> str:
    """The cheapest thing that keeps the level up until a moment, in words.

    Switching one thing off and the shortest drive are each tried on the rest of the trip, then both
    together; what is not enough says so.
    """
    step_min = here.rest.grid.step_min
    since_min = (until - first_midnight(here.plan)).total_seconds() / 60
    end = max(round(since_min / step_min), here.tracked.until + 1)

    def left(case: Case) -> float:
        rest = run_rest(case, here.tracked.here, here.plan.assumptions.scenarios)
        return level_until(_with_rest(here, rest), min(end, rest.grid.steps)).share_under

    skips = _skips(here, run_plan(here.plan), until)
    off = {skip.key: _without(here, skip, until) for skip in skips}
    alone = next((skip for skip in skips if left(off[skip.key]) <= ENOUGH), None)
    ways = [] if alone is None else [_skip_words(here, alone)]
    drive = _shortest(here, here.tracked.case, left)
    if drive is not None:
        ways.append(_drive_words(drive))
    if ways:
        return f"{ways[0][0].upper()}{' or '.join(ways)[1:]}."
    if skips and (drive := _shortest(here, off[skips[-1].key], left)) is not None:
        both = f"{_skip_words(here, skips[-1])} and {_drive_words(drive)}"
        return f"{both[0].upper()}{both[1:]}: neither is enough by itself."
    return _not_enough(here, skips)


def _not_enough(here: TrackedTrip, skips: list[Skip]) -> str:
    """What is left to say where none of what was tried is enough; it names only what was tried."""
    tried = [f"to {_skip_words(here, skips[-1])}"] if skips else []
    if _drives(here.tracked.case):
        tried.append(f"a drive of up to {DRIVES_MIN[-1]} min")
    said = f"Not enough: {' or '.join(tried)}. " if tried else ""
    where = "mains" if here.case.mains else "another source"
    return f"{said}Charge it from {where} if you can, and switch off whatever may be."


def _with_rest(here: TrackedTrip, rest: object) -> TrackedTrip:
    """The same trip with another rest."""
    other = replace(here)
    other.__dict__["rest"] = rest
    return other


def _skips(here: TrackedTrip, run: Run, until: datetime) -> list[Skip]:
    """What may stay off and takes something until then, the least first."""
    starts = run.grid.starts_utc.astype("datetime64[s]").astype(int)
    inside = (starts >= here.now.timestamp()) & (starts < until.timestamp())
    found = [
        Skip(draw.key, draw.name, float(draw.asked_w[inside].sum()) * run.grid.step_h)
        for draw in run.draws
        if may_be_cut(draw) and draw.plug_share > 0.0
    ]
    worth = [skip for skip in found if skip.wh >= WORTH_WH]
    return sorted(worth, key=lambda skip: skip.wh)[-MAX_SKIPS:]


def _without(here: TrackedTrip, skip: Skip, until: datetime) -> Case:
    off = LoadOverride(skip.key, False, int(here.now.timestamp()), int(until.timestamp()))
    return replace(here.tracked.case, overrides=(*here.tracked.case.overrides, off))


def _shortest(
    here: TrackedTrip, case: Case, left: Callable[[Case], float]
) -> tuple[int, datetime] | None:
    """The shortest drive that is enough, and by when it is over; None where none is."""
    if not _drives(case):
        return None
    begin, last = first_midnight(here.plan), case.days * MINUTES_PER_DAY
    soon = SOON_MIN * (int((here.now - begin).total_seconds() / 60) // SOON_MIN + 1)
    evening = (soon // MINUTES_PER_DAY) * MINUTES_PER_DAY + BY_H * 60
    for minutes in DRIVES_MIN:
        ends = max(evening, soon + minutes)
        if ends > last:
            return None
        day, start = divmod(ends - minutes, MINUTES_PER_DAY)
        end_day = (ends - 1) // MINUTES_PER_DAY
        block = Block("drive", day, start, end_day, ends - end_day * MINUTES_PER_DAY)
        if left(replace(case, blocks=(*case.blocks, block))) <= ENOUGH:
            return minutes, begin + timedelta(minutes=ends)
    return None


def _drives(case: Case) -> bool:
    """Whether anything charges it while driving."""
    return any(SOURCE_KINDS[source.group].block == "drive" for source in case.sources)


def _skip_words(here: TrackedTrip, skip: Skip) -> str:
    ah = skip.wh / here.case.bank.nominal_v
    return f"leave {skip.name} off tonight (saves {charge(ah, skip.wh)})"


def _drive_words(drive: tuple[int, datetime]) -> str:
    minutes, by = drive
    return f"drive {minutes} min by {clock(by)}"
