"""How it is known where the battery stands: the start, the model, and every reading's part."""

from __future__ import annotations

from datetime import UTC, datetime

from oddkettle.core.battery.label_share import level_from_shown
from oddkettle.core.estimation.readings import READING_KINDS, Reading, Taken
from oddkettle.core.simulation.ensemble_statistics import MIDDLE_80
from oddkettle.core.trip.grid import zone_named
from oddkettle.core.units.quantity import clock
from oddkettle.results.sums import Constant, Sum, SumLine, figure_line
from oddkettle.text.words import day_words
from oddkettle.usecases.field.track.score import score_trip
from oddkettle.usecases.field.track.track_report import text_of
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, follow

COUNTS_AS_SHOWN = 0.985
"""A battery that holds so much of its label stands where its monitor shows."""
SHOWN = 6
"""So many of the last readings are told one by one."""
JUDGED = "of ordinary instruments and habits [judgement]"


def standing_sum(plan_id: int, at: datetime | None = None) -> Sum:
    """How the level of a trip under way was made, at a moment or now. Raises PlanRefused.

    The lines with a sign close: start, what the model ran, what the readings moved.
    """
    here = follow(plan_id, at)
    tracked = here.tracked
    low, now, high = (100 * float(line[-1]) for line in tracked.band)
    first_low, first, first_high = (100 * float(line[0]) for line in tracked.band)
    believed = [taken for taken in tracked.taken if taken.used]
    # One that is open moves the middle as well: the band holds both.
    moved = 100 * sum(taken.moved for taken in tracked.taken if taken.used or taken.open)
    ran = now - first - moved
    many = f"{len(believed)} reading{'' if len(believed) == 1 else 's'}"
    return Sum(
        title="Where it stands",
        text=f"{tracked.gave.shape[0]:,} boxes like yours, each a little different within what is "
        "unsure, are run along the trip as it went. A reading favours those that foresaw it. The "
        "level is their middle; the doubt holds the middle eight of ten.",
        lines=[
            figure_line("At the start", f"{first:.1f} %", note=_span(first_low, first_high)),
            _step("What was used, given and lost, as the model runs it", ran),
            _step(f"Moved by {many}", moved),
            figure_line("Stands at", f"{now:.1f} %", "=", _span(low, high)),
            *_own_score(plan_id, at),
            *_readings(here),
        ],
        constants=[
            Constant(
                text="Doubt of the start",
                value=f"±{here.plan.assumptions.start_doubt_percent:g} points",
                source="what the trip says under: How unsure it is",
            ),
            *_by_label(here),
            *_errors({taken.kind for taken in believed}),
        ],
    )


def _own_score(plan_id: int, at: datetime | None) -> list[SumLine]:
    """How the forecasts of this very trip came out, once one has come due."""
    score = score_trip(plan_id, at)
    if score.of == 0:
        return []
    told = f"{score.inside} of {score.of}"
    return [figure_line("Your own mornings in the band foreseen", told, note="about 8 of 10")]


def _span(low: float, high: float) -> str:
    return f"between {low:.0f} and {high:.0f}"


def _step(text: str, points: float) -> SumLine:
    return SumLine(text=text, value=f"{abs(points):.1f} points", sign="-" if points < 0 else "+")


def _readings(here: TrackedTrip) -> list[SumLine]:
    """The last readings, the newest first, each with what it did."""
    read = {reading.key: reading for reading in here.readings}
    zone = zone_named(here.plan.trip.site.timezone)
    lines = []
    for taken in reversed(here.tracked.taken[-SHOWN:]):
        reading = read[taken.key]
        when = datetime.fromtimestamp(reading.at_s, UTC).astimezone(zone)
        lines.append(
            SumLine(
                text=f"{day_words(when, here.case.days)} {clock(when)}, {_told(reading)}",
                value=_effect(taken),
                note=text_of(taken),
            )
        )
    earlier = len(here.tracked.taken) - len(lines)
    if earlier > 0:
        lines.append(figure_line(f"{earlier} earlier", "see the log"))
    return lines


def _told(reading: Reading) -> str:
    """What was read, as it is said."""
    kind = READING_KINDS[reading.kind]
    name, unit = kind.name, kind.unit
    if kind.anchor:
        return name
    if unit == "%":
        return f"{name} {100 * reading.value:.0f} %"
    return f"{name} {reading.value:.{kind.digits}f} {unit.split()[0]}"


def _by_label(here: TrackedTrip) -> list[Constant]:
    """Why the level may lie below what the monitor shows: it counts from the label."""
    shown = [r for r in here.readings if READING_KINDS[r.kind].biased]
    content = float(here.tracked.after.capacity.mean()) * here.case.bank.share
    if not shown or content > COUNTS_AS_SHOWN:
        return []
    value = shown[-1].value
    level = max(float(level_from_shown(value, content)), 0.0)
    return [
        Constant(
            text=f"{100 * value:.0f} % shown is a level of",
            value=f"about {100 * level:.0f} %",
            source=f"a monitor counts what is missing from the label, and the battery holds about "
            f"{100 * content:.0f} % of that",
        )
    ]


def _effect(taken: Taken) -> str:
    if taken.open:
        return "not used yet"
    if not taken.used:
        return "not used"
    moved = f"{100 * taken.moved:+.1f}".replace("-", "−").replace("+0.0", "0").replace("−0.0", "0")
    return f"{moved}, ±{100 * MIDDLE_80 * taken.doubt[1]:.1f}"


def _errors(kinds: set[str]) -> list[Constant]:
    """How far each kind that was read may be off."""
    # Kinds of one family share their line.
    found = dict.fromkeys(
        line for key, kind in READING_KINDS.items() if key in kinds for line in kind.errors
    )
    return [Constant(text=text, value=value, source=JUDGED) for text, value in found]
