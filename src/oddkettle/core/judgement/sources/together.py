"""Judgements about sources that do not go together, or are missing."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    hours,
    of_a_built_box,
    source_part,
)
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import parallel_share

UNLIKE = 0.05
"""Panels whose voltages differ by more are unlike [textbook]."""
DRIVING_H = 0.5
"""Less driving than this on a trip is not worth a charger [judgement]."""


@of_a_built_box
def sources_in_a_loop(evidence: Evidence) -> Iterator[Judgement]:
    """A relay and a DC-DC charger join the same two batteries."""
    relays = [s for s in evidence.run.case.vehicle if isinstance(s, Relay)]
    chargers = [s for s in evidence.run.case.vehicle if isinstance(s, DcDc)]
    if not relays or not chargers:
        return
    relay, charger = relays[0], chargers[0]
    yield Judgement(
        code="sources-in-a-loop",
        severity="fault",
        part=f"vehicle:{charger.key}",
        text=f"{relay.name} and {charger.name} join the same two batteries.",
        means="While the relay is closed, what the charger lifts flows back through the relay: "
        "energy goes round, both get hot, and the charge is not more.",
        remedy="One of the two.",
        source="makers of DC-DC chargers [textbook]",
        fix=Fix("Leave the relay off", (Change(f"vehicle:{relay.key}", ("on",), False),)),
    )


def unlike_panels(evidence: Evidence) -> Iterator[Judgement]:
    """Panels of other voltages in parallel on one tracking input."""
    for array in evidence.run.case.sun:
        share = parallel_share(array)
        volts = [panel.plate.vmp_v for panel in array.panels]
        if array.at_battery or array.series > 1 or max(volts) <= (1.0 + UNLIKE) * min(volts):
            continue
        source = next(s for s in evidence.run.sources if s.key == array.key)
        yield Judgement(
            code="unlike-panels",
            severity="waste",
            part=source_part(source),
            text=f"{array.name}: panels of {min(volts):.0f} and of {max(volts):.0f} V lie in "
            "parallel on one controller.",
            means=f"It can hold only one voltage: about {100 * (1.0 - share):.0f} % of what they "
            "could give is lost.",
            remedy="A controller for each, or panels of one voltage.",
            source="panels' labels; parallel panels share one voltage [textbook]",
            numbers=(Number("lost", 100 * (1.0 - share), "%"),),
        )


def drive_charges_nothing(evidence: Evidence) -> Iterator[Judgement]:
    """One drives, and nothing charges the box from the vehicle."""
    run = evidence.run
    driven_h = hours(run.world.shares["drive"] > 0.0, run)
    if run.case.vehicle or driven_h < DRIVING_H:
        return
    yield Judgement(
        code="drive-charges-nothing",
        severity="note",
        part="trip",
        text=f"You drive {driven_h:.1f} h on this trip, and nothing charges the box then.",
        means=f"A DC-DC charger of 20 A would bring up to {evidence.charge(20.0 * driven_h)}.",
        remedy="Add a charger to the vehicle, or leave the drives out of the plan.",
        source="the plan",
        numbers=(Number("driven", driven_h, "h"),),
    )


RULES = (sources_in_a_loop, unlike_panels, drive_charges_nothing)
