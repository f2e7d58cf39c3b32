"""The answer first: will it last, where is it tight, what holds it back."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import Flow, Ledger, SourceFlow
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import Mend, lowest
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.solar import PWM_OVER_V
from oddkettle.core.sources.source_series import SourceSeries
from oddkettle.core.trip.grid import clock_text
from oddkettle.core.units.quantity import celsius, clock
from oddkettle.results.run import (
    Amount,
    Autonomy,
    Bottleneck,
    Endurance,
    MendReport,
    Outage,
    SourceLimit,
    Verdict,
)
from oddkettle.text.words import (
    day_words,
    duration_words,
    moment,
    part_of_day,
    percent_words,
    span_words,
)

Ints = NDArray[np.int64]
SNUG_SHARE = 0.10
"""A plan that keeps less than this above its floor is called close."""
NOTICEABLE_AH = 0.5
AT_START, NO_MORE = 0.005, 0.05
"""A trip that begins this near its reserve and never rises more above it has nothing to spend."""
NECK_SHARE = 0.05
"""A limit that costs less than this share of the sun's offer is not called a bottleneck."""


NOTHING_AH = 0.01
NEVER_LOW = 0.7
"""A box that never falls below this share is held back by nothing."""
HALF = 0.5
ROOM_SHARE = 0.75
"""A charger of which less than this share is taken is not held back by its rating."""


def whole(flows: Iterable[Flow]) -> Amount:
    """All days and all flows together."""
    listed = list(flows)
    return Amount(
        ah=float(sum(flow.ah.sum() for flow in listed)),
        wh=float(sum(flow.wh.sum() for flow in listed)),
    )


def say_verdict(
    run: Run, ledger: Ledger, mend: Mend | None, alone: Endurance | None = None
) -> Verdict:
    """The sentence above the day board."""
    low = lowest(run)
    under = np.flatnonzero(run.level[:-1] < run.case.fails_below)
    cut = np.flatnonzero(run.track.served < 1.0)
    unmet = whole(flow.unmet for flow in ledger.draws)
    headline, detail = _fails(run, cut, under, unmet) or _lasts(run, unmet, alone)
    when = moment(run, low.step)
    return Verdict(
        lasts=len(under) == 0 and (len(cut) == 0 or unmet.ah <= NOTHING_AH),
        headline=headline,
        detail=detail,
        lowest_percent=100 * low.soc,
        lowest_at=when.isoformat(),
        lowest_day=_day_of(run, low.step),
        first_below_at=moment(run, int(under[0])).isoformat() if len(under) else None,
        below_floor_min=float(len(under) * run.grid.step_min),
        mend=_mend(run, mend),
    )


def _lowest_words(run: Run) -> tuple[str, str]:
    """Where the lowest point is, and how much it holds there."""
    low, nights = lowest(run), len(run.grid.day_starts) - 1
    when = moment(run, low.step)
    place = f"{part_of_day(when)} on {day_words(when, nights)} ({clock(when)})"
    return place, percent_words(low.soc)


def _fails(run: Run, cut: Ints, under: Ints, unmet: Amount) -> tuple[str, str] | None:
    """Headline and detail of a box that does not last; None of one that does."""
    floor, nights = run.case.floor, len(run.grid.day_starts) - 1
    place, level = _lowest_words(run)
    if len(cut) and unmet.ah > NOTHING_AH:
        first = moment(run, int(cut[0]))
        before = moment(run, int(under[0])) if len(under) else first
        if before.date() < first.date():
            return (
                f"It goes under your reserve on {day_words(before, nights)}, and cuts out on "
                f"{day_words(first, nights)}.",
                f"At {clock(first)} it is empty; appliances go without {unmet} before the trip "
                "ends.",
            )
        return (
            f"The battery cuts out on {day_words(first, nights)}.",
            f"At {clock(first)} it is empty; appliances go without {unmet} before the trip ends.",
        )
    if len(under) == 0:
        return None
    begins = run.case.begins_at
    if begins < floor + AT_START and run.level.max() < NO_MORE + floor:
        return (
            f"It begins {'at' if begins > floor - AT_START else 'under'} your reserve, with "
            "nothing to spend.",
            f"At the start it holds {percent_words(begins)}{_shown_words(run.case)}, and your "
            f"reserve is {percent_words(floor)}: what is used first takes it down. The lowest "
            f"point is {place}: {level}.",
        )
    first = moment(run, int(under[0]))
    hours = len(under) * run.grid.step_min / 60
    return (
        f"It goes under your reserve on {day_words(first, nights)}.",
        f"The lowest point is {place}: {level}, and your reserve is {percent_words(floor)}. "
        f"It stays under for {duration_words(hours)}.",
    )


def _shown_words(case: Case) -> str:
    """Why a battery begins lower than was typed, where it does."""
    if case.soc0 - case.begins_at < AT_START:
        return ""
    return (
        f" (the {percent_words(case.soc0)} that you typed count from the label; it holds about "
        f"{percent_words(case.content)} of that)"
    )


def _lasts(run: Run, unmet: Amount, alone: Endurance | None) -> tuple[str, str]:
    """Headline and detail of a box that lasts."""
    floor, nights = run.case.floor, len(run.grid.day_starts) - 1
    span = span_words(run.case)
    place, level = _lowest_words(run)
    shed = np.flatnonzero(run.track.shed > 0.0)
    if len(shed) and unmet.ah > NOTHING_AH:
        first = moment(run, int(shed[0]))
        return (
            f"Your box lasts {span} by switching things off.",
            f"From {day_words(first, nights)} ({clock(first)}) on, what goes first is off at "
            f"times: {unmet} in all. Its lowest point is {level}.",
        )
    if run.case.standby and alone is not None and alone.shortest_autonomy is not None:
        return _stands_by(run, alone.shortest_autonomy, alone.outage)
    if lowest(run).soc - floor < SNUG_SHARE:
        return (
            f"Your box lasts {span}, but only just.",
            f"The tightest moment is {place}: {level}, and your reserve is {percent_words(floor)}.",
        )
    return f"Your box lasts {span}.", f"As planned its lowest point is {level}, {place}."


def _stands_by(run: Run, shortest: Autonomy, outage: Outage | None) -> tuple[str, str]:
    """Headline and detail of a box that waits for an outage: how long one may last."""
    floor, nights = percent_words(run.case.floor), len(run.grid.day_starts) - 1
    worst = moment(run, shortest.step if outage is None else outage.step)
    begins = (
        f"That is for an outage that begins at the worst hour, {clock(worst)} on "
        f"{day_words(worst, nights)}"
    )
    _, level = _lowest_words(run)
    planned = f"As planned its lowest point is {level}."
    if outage is None:
        hours = duration_words(shortest.hours or 0.0)
        return (
            f"Without mains your box lasts about {hours}.",
            f"{begins}, in expected weather, down to your reserve of {floor}. {planned}",
        )
    half = (
        ""
        if outage.middle_h is None
        else f" Half of such outages could last {duration_words(outage.middle_h)}."
    )
    return (
        f"Without mains your box lasts {duration_words(outage.worst_h)} in nine outages of ten.",
        f"{begins}, down to your reserve of {floor}.{half} {planned}",
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
        lasts_percent=None,
        text=f"Drive {mend.minutes} min on {day_words(when, run.case.days)}: "
        f"lowest point {percent_words(mend.lowest.soc)}",
    )


def say_bottleneck(run: Run, ledger: Ledger) -> Bottleneck:
    """The one thing that costs the box most of what it is offered."""
    sun = [ledger.sources[j] for j, s in enumerate(run.sources) if s.kind == "sun"]
    offered = whole(flow.offered for flow in sun)
    clipped = whole(flow.clipped for flow in sun)
    spilled = whole(flow.spilled for flow in sun)
    taken = whole(flow.taken for flow in ledger.sources)
    used = whole(flow.used for flow in ledger.draws)
    every = whole(flow.offered for flow in ledger.sources)
    frozen = whole(flow.frozen for flow in ledger.sources)
    if frozen.ah > NECK_SHARE * every.ah and frozen.ah > NOTICEABLE_AH:
        barred_c = run.case.bank.chemistry.cold.barred_below_c
        return Bottleneck(
            headline="Frost is the limit.",
            detail=(
                f"{frozen} of the {every} that are offered come while the battery is below "
                f"{celsius(barred_c)}, when it must not be charged. "
                + (
                    "Insulate it, or give it stronger pads."
                    if run.case.heater
                    else "Heater pads or a warmer place let them in."
                )
            ),
        )
    if clipped.ah > spilled.ah and clipped.ah > NECK_SHARE * offered.ah:
        return Bottleneck(
            headline="The solar controller is the limit.",
            detail=(
                f"The panels offer {offered} on this trip; "
                f"{clipped} of it never get past the controller's limit."
            ),
        )
    low_share = float(run.level.min())
    if low_share > NEVER_LOW and spilled.ah > NECK_SHARE * offered.ah:
        return Bottleneck(
            headline="Nothing limits this box.",
            detail=f"Its lowest point is {percent_words(low_share)}; {spilled} of {offered} of sun "
            "find it full.",
        )
    if spilled.ah > NECK_SHARE * offered.ah:
        return Bottleneck(
            headline="The battery is the limit.",
            detail=(
                f"The panels offer {offered} on this trip; "
                f"{spilled} of it are wasted: the battery is full, or slow to take its last part."
            ),
        )
    if taken.ah < used.ah:
        if taken.ah < NOTICEABLE_AH:
            detail = f"Nothing charges it on this trip, and it uses {used}."
        else:
            detail = (
                f"The box takes nearly all that it is offered, {taken}, "
                f"and uses {used}: more sun, driving or mains would be taken."
            )
        return Bottleneck(headline="What comes in is the limit.", detail=detail)
    return Bottleneck(
        headline="Nothing limits this box.",
        detail=f"It takes {taken} on this trip and uses {used}.",
    )


def say_limits(run: Run, ledger: Ledger) -> list[SourceLimit]:
    """For each source, the number that holds it back over the whole trip."""
    return [_limit(run, ledger, index) for index in range(len(run.sources))]


def _limit(  # noqa: PLR0911 - one return a reason
    run: Run, ledger: Ledger, index: int
) -> SourceLimit:
    source, flow = run.sources[index], ledger.sources[index]
    offered, taken = whole([flow.offered]), whole([flow.taken])
    if offered.ah <= 0.0:
        idle = SOURCE_KINDS[source.kind].idle
        if float(source.on.sum()) > 0.0:
            idle = "It is on, but gives nothing: look at its voltages."
        return SourceLimit(key=source.key, text=idle, binds=False)
    if source.volts is not None:
        return _sun_limit(run, index, flow)
    hours = float(source.on.sum()) * run.grid.step_h
    span = f"{duration_words(hours)} of {SOURCE_KINDS[source.kind].hours_of}"
    barred, clipped = whole([flow.barred]), whole([flow.clipped])
    if barred.ah > HALF * offered.ah:
        text = (
            f"{barred} of the {offered} it could give are kept away: by the "
            "selector, quiet hours, or use."
        )
        return SourceLimit(key=source.key, text=text, binds=False)
    if clipped.ah > NECK_SHARE * offered.ah:
        return SourceLimit(key=source.key, text=_clipped_words(run, index, clipped), binds=True)
    if taken.ah < ROOM_SHARE * offered.ah:
        text = (
            f"{span} could give {offered}; the battery takes "
            f"{taken} and is full or slowing for the rest."
        )
        return SourceLimit(key=source.key, text=text, binds=False)
    if source.feed_s > 0.0:
        amps = run.taken_a[index][source.on > 0.0]
        text = (
            f"{span} put in {taken} through the relay: {float(amps.max(initial=0.0)):.0f} A at "
            f"most, {float(amps.mean()) if len(amps) else 0.0:.0f} A on average. The wire and the "
            "alternator's voltage are the limit."
        )
        return SourceLimit(key=source.key, text=text, binds=True)
    text = f"{source.rating_a:g} A for {span} put in {taken}: its rating is the limit."
    return SourceLimit(key=source.key, text=text, binds=True)


def _clipped_words(run: Run, index: int, clipped: Amount) -> str:
    """What keeps a charger under its rating: its feed, its supply, or a limit that it shares."""
    source = run.sources[index]
    passed = source.offer_w / np.maximum(run.track.bus_v, 1e-9)
    short_a = float(np.maximum(source.could_a - passed, 0.0).sum())
    hot_a = float(np.maximum(source.could_a - source.limit_a, 0.0)[source.barred == 0.0].sum())
    on = source.on > 0.0
    least = float(passed[on].min(initial=source.rating_a))
    if short_a > max(hot_a, 1e-6):
        passes = SOURCE_KINDS[source.kind].passes
        why = f"{passes} {least:.1f} A of its {source.rating_a:g} A"
    elif hot_a > 1e-6:
        why = "the heat around it is the limit"
    else:
        why = "the output limit that it shares is the limit"
    return f"{why[0].upper()}{why[1:]}: {clipped} less on this trip."


def _held_by_pwm(run: Run, source: SourceSeries) -> bool:
    """Whether a controller that cannot track works its panels far below their best voltage."""
    array = next(a for a in run.case.sun if a.key == source.key)
    if not array.at_battery or source.volts is None:
        return False
    return source.volts.hot_vmp_v > float(run.track.bus_v.max()) + PWM_OVER_V


def _sun_limit(run: Run, index: int, flow: SourceFlow) -> SourceLimit:
    source = run.sources[index]
    best_a = float(
        (
            np.minimum(
                run.sources[index].could_w / np.maximum(run.track.bus_v, 1e-9),
                run.sources[index].could_a,
            )
        ).max()
    )
    offered, clipped = whole([flow.offered]), whole([flow.clipped])
    spilled = whole([flow.spilled])
    binds = clipped.ah > NOTICEABLE_AH
    takes_w = next(a.controller.input_limit_w for a in run.case.sun if a.key == source.key)
    by_input = takes_w is not None and float(source.could_w.max()) > takes_w * source.efficiency
    if binds and by_input and best_a <= source.rating_a:
        text = (
            f"The panels reach {source.could_w.max() / source.efficiency:.0f} W; the input takes "
            f"{takes_w:.0f} W. {clipped} of {offered} are not taken."
        )
    elif binds:
        text = (
            f"The panels reach {best_a:.1f} A; the controller passes {source.rating_a:g} A. "
            f"{clipped} of {offered} are clipped."
        )
    elif _held_by_pwm(run, source):
        text = (
            f"The panels reach {best_a:.1f} A of the controller's {source.rating_a:g} A. As PWM it "
            "works them at the battery's voltage: what they have above that is lost."
        )
    else:
        text = (
            f"The panels reach {best_a:.1f} A of the controller's {source.rating_a:g} A: "
            "the sun is the limit, not the controller."
        )
    frozen = whole([flow.frozen])
    full = Amount(ah=spilled.ah - frozen.ah, wh=spilled.wh - frozen.wh)
    if full.ah > NOTICEABLE_AH:
        text += f" {full} are wasted: the battery is full."
    if frozen.ah > NOTICEABLE_AH:
        text += f" {frozen} come while it is too cold to be charged."
    return SourceLimit(key=source.key, text=text, binds=binds)
