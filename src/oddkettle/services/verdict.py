"""The answer first: will it last, where is it tight, what holds it back."""

from __future__ import annotations

import numpy as np

from oddkettle.core.ledger import Ledger
from oddkettle.core.outlook import Mend, lowest
from oddkettle.core.run import Run
from oddkettle.core.trip import clock_text
from oddkettle.services.report import MendReport, Neck, SourceLimit, Verdict
from oddkettle.services.words import (
    day_words,
    duration_words,
    moment,
    number_word,
    part_of_day,
    percent_words,
)

SNUG_SHARE = 0.10
"""A plan that keeps less than this above its floor is called close."""
NOTICEABLE_AH = 0.5
NECK_SHARE = 0.05
"""A limit that costs less than this share of the sun's offer is not called a neck."""


def say_verdict(run: Run, books: Ledger, mend: Mend | None) -> Verdict:
    """The sentence above the day board."""
    low = lowest(run)
    floor = run.case.floor
    under = np.flatnonzero(run.track.soc[:-1] < floor)
    below_min = len(under) * run.grid.step_min
    unmet_ah = float(sum(flow.unmet.ah.sum() for flow in books.draws))
    when = moment(run, low.step)
    nights = len(run.grid.day_starts) - 1
    span = f"all {number_word(nights)} days" if nights > 1 else "the day"
    place = f"{part_of_day(when)} on {day_words(when)} ({when:%H:%M})"
    if unmet_ah > 0.01:
        first = moment(run, int(np.flatnonzero(run.track.served < 1.0)[0]))
        headline = f"The battery cuts out on {day_words(first)}."
        detail = (
            f"At {first:%H:%M} it is empty; appliances go without {unmet_ah:.0f} Ah "
            f"before the trip ends."
        )
    elif len(under):
        first = moment(run, int(under[0]))
        headline = f"It falls below your floor on {day_words(first)}."
        detail = (
            f"The lowest point is {place}: {percent_words(low.soc)}, and your floor is "
            f"{percent_words(floor)}. It stays under for {duration_words(below_min / 60)}."
        )
    elif low.soc - floor < SNUG_SHARE:
        headline = f"Your box lasts {span}, but only just."
        detail = (
            f"The tight spot is {place}: {percent_words(low.soc)}, and your floor is "
            f"{percent_words(floor)}."
        )
    else:
        headline = f"Your box lasts {span}."
        detail = f"It is never below {percent_words(low.soc)}; that is {place}."
    return Verdict(
        lasts=len(under) == 0 and unmet_ah <= 0.01,
        headline=headline,
        detail=detail,
        lowest_percent=100 * low.soc,
        lowest_at=when.isoformat(),
        lowest_day=_day_of(run, low.step),
        first_below_at=moment(run, int(under[0])).isoformat() if len(under) else None,
        below_floor_min=float(below_min),
        mend=_mend(run, mend),
    )


def _day_of(run: Run, step: int) -> int:
    day = int(np.searchsorted(run.grid.day_starts, step, side="right")) - 1
    return min(day, len(run.grid.day_starts) - 2)


def _mend(run: Run, mend: Mend | None) -> MendReport | None:
    if mend is None:
        return None
    when = moment(run, int(run.grid.day_starts[mend.block.day]))
    return MendReport(
        day=mend.block.day,
        start=clock_text(mend.block.start_min),
        end=clock_text(mend.block.end_min),
        minutes=mend.minutes,
        lowest_percent=100 * mend.lowest.soc,
        says=f"Drive {mend.minutes} min on {day_words(when)}: "
        f"never below {percent_words(mend.lowest.soc)}",
    )


def say_neck(run: Run, books: Ledger) -> Neck:
    """The one thing that costs the box most of what it is offered."""
    sun = [books.sources[j] for j, s in enumerate(run.sources) if s.kind == "sun"]
    offered = float(sum(flow.offered.ah.sum() for flow in sun))
    clipped = float(sum(flow.clipped.ah.sum() for flow in sun))
    spilled = float(sum(flow.spilled.ah.sum() for flow in sun))
    taken = float(sum(flow.taken.ah.sum() for flow in books.sources))
    used = float(sum(flow.used.ah.sum() for flow in books.draws))
    if clipped > spilled and clipped > NECK_SHARE * offered:
        return Neck(
            headline="The solar controller is the neck.",
            detail=f"The panels offer {offered:.0f} Ah on this trip; {clipped:.0f} Ah of it "
            "never get past the controller's limit.",
        )
    if spilled > NECK_SHARE * offered:
        return Neck(
            headline="The battery is the neck.",
            detail=f"The panels offer {offered:.0f} Ah on this trip; {spilled:.0f} Ah of it "
            "find the battery full or taking its last slowly.",
        )
    if taken < used:
        return Neck(
            headline="What comes in is the neck.",
            detail=f"The box takes nearly all that it is offered, {taken:.0f} Ah, "
            f"and uses {used:.0f} Ah: more sun, driving or mains would be taken.",
        )
    return Neck(
        headline="Nothing holds this box back.",
        detail=f"It takes {taken:.0f} Ah on this trip and uses {used:.0f} Ah.",
    )


def say_limits(run: Run, books: Ledger) -> list[SourceLimit]:
    """For each source, the number that holds it back over the whole trip."""
    says = []
    for index, source in enumerate(run.sources):
        flow = books.sources[index]
        taken, offered = float(flow.taken.ah.sum()), float(flow.offered.ah.sum())
        clipped, spilled = float(flow.clipped.ah.sum()), float(flow.spilled.ah.sum())
        hours = float((run.offers.limit_a[index] > 0.0).sum()) * run.grid.step_h
        binds = clipped > NOTICEABLE_AH
        if offered <= 0.0:
            text = {
                "sun": "The panels see no sun on this trip.",
                "vehicle": "No drive on this trip, so it never starts.",
                "mains": "No hook-up on this trip, so it never starts.",
            }[source.kind]
        elif source.kind == "sun":
            best = float((run.offers.offer_w[index] / np.maximum(run.track.bus_v, 1e-9)).max())
            if binds:
                text = (
                    f"The panels reach {best:.1f} A; the controller passes {source.limit_a:g} A. "
                    f"{clipped:.1f} Ah of {offered:.0f} Ah are clipped."
                )
            else:
                text = (
                    f"The panels reach {best:.1f} A of the controller's {source.limit_a:g} A: "
                    f"the sun is the limit, not the controller."
                )
            if spilled > NOTICEABLE_AH:
                text += f" {spilled:.0f} Ah find the battery full."
        else:
            word = "drives" if source.kind == "vehicle" else "hook-ups"
            if spilled > 0.25 * offered:
                text = (
                    f"{duration_words(hours)} of {word} could give {offered:.0f} Ah; the battery "
                    f"takes {taken:.0f} Ah and is full or slowing for the rest."
                )
            else:
                binds = True
                text = (
                    f"{source.limit_a:g} A for {duration_words(hours)} of {word} put in "
                    f"{taken:.0f} Ah: its rating is the limit."
                )
        says.append(SourceLimit(key=source.key, says=text, binds=binds))
    return says
