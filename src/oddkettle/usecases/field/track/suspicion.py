"""When readings and model do not agree: which assumption must be wrong, and what would tell."""

from __future__ import annotations

from collections import Counter

from oddkettle.core.estimation.readings import READING_KINDS
from oddkettle.core.estimation.tracker import Tracked
from oddkettle.results.odds import Band
from oddkettle.usecases.field.track.calibration import Learned

FEWEST_ASIDE = 2
"""One odd reading is a slip of the eye; two ask a question [judgement]."""
LOW_CONTENT = 0.95
"""With all of its range below this a battery is said to hold less than its label [judgement]."""
FAR_LOAD = 0.25
OTHERWISE = "a drive, a hook-up or an appliance was not as the log has it"
TELLS = "A full charge and a slow discharge to 20 % would tell: the capacity test below."


def suspicions(tracked: Tracked, learned: list[Learned]) -> list[str]:
    """What must be wrong, in words; nothing where readings and model agree."""
    said = []
    battery = next((one for one in learned if one.kind == "battery"), None)
    if battery is not None and battery.told and battery.after.high < LOW_CONTENT:
        said.append(
            f"Your battery seems to hold {_percent(battery.after)} of its label, or the monitor "
            f"has drifted. {TELLS}"
        )
    aside = Counter(taken.kind for taken in tracked.taken if not taken.used)
    if sum(aside.values()) >= FEWEST_ASIDE:
        kind, count = aside.most_common(1)[0]
        name = READING_KINDS[kind].name
        times = f"{count} readings of {name}" if count > 1 else f"A reading of {name}"
        does = "do" if count > 1 else "does"
        why = READING_KINDS[kind].why_aside or OTHERWISE
        said.append(
            f"{times} {does} not fit the rest. Either {why}, or "
            f"{OTHERWISE}. The level is told with more doubt until it is settled."
        )
    for one in learned:
        if one.kind == "appliance" and one.told and abs(one.after.middle - 1.0) > FAR_LOAD:
            way = "more" if one.after.middle > 1.0 else "less"
            said.append(
                f"{one.name} seems to draw {100 * abs(one.after.middle - 1.0):.0f} % {way} than "
                "was typed: two counter readings some hours apart, with little else on, would tell."
            )
    return said


def _percent(band: Band) -> str:
    return f"{100 * band.middle:.0f} % ({100 * band.low:.0f} to {100 * band.high:.0f})"
