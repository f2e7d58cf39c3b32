"""What ends the use before the battery is empty, and when it may begin again."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from oddkettle.core.construction.procedures.expected_readings import loaded_v, rested_v
from oddkettle.core.construction.settings.charging import absorption_to_set, float_to_set
from oddkettle.core.construction.settings.set_point import SetPoint, volts, volts_span
from oddkettle.core.loads.demand import Inverter
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import CLASS_V

USUAL_DRAW = 0.95
"""The draw at which the cut-off is told: what the battery gives in all but the hardest twentieth
of the steps in which it gives anything [judgement]."""
ABOVE_EMPTY_V = 0.2
"""A cut-off lies so far above the battery's own at the least [judgement, 12 V class]."""
BACK_AFTER = 0.3
"""So much of its content has to be back before what was cut off begins anew [judgement]."""
APART_V = 0.5
"""Off and on lie so far apart at the least, or it goes off and on [textbook, 12 V class]."""


@dataclass(frozen=True)
class CutOff:
    """Off from `off_v` down, on again from `on_v` up [V at the battery], told for `draw_a`."""

    off_v: float
    on_v: float
    draw_a: float
    empty_v: float
    rests_v: float


def cut_off_at(case: Case, draw_a: float) -> CutOff:
    """The voltages for a reserve while the battery gives so much [A].

    Off: what it shows at the reserve under that draw, down to a tenth, but above where its own
    protection ends. On: what it shows at rest with a good part of its content back; above what it
    springs back to by itself when the load is taken off, and below float, or it never comes back.
    """
    bank, floor = case.bank, case.floor
    by_class = bank.system_v / CLASS_V
    empty = bank.chemistry.cutoff_v * bank.volts_scale
    rests = rested_v(bank, floor)
    least = empty + ABOVE_EMPTY_V * by_class
    off = math.floor(10.0 * min(max(loaded_v(bank, floor, -draw_a), least), rests) + 1e-6) / 10.0
    on = max(rested_v(bank, min(floor + BACK_AFTER, 1.0)), rests + 0.1, off + APART_V * by_class)
    top = max(float_to_set(case, case.profile) - 0.1 * by_class, rests + 0.1)
    return CutOff(off, math.ceil(10.0 * min(on, top) - 1e-6) / 10.0, draw_a, empty, rests)


def usual_draw_a(run: Run) -> float:
    """What the battery gives on this trip in all but its hardest moments [A]; 0 where nothing."""
    gives = np.maximum(-run.track.bank_a[:, 0], 0.0)
    gives = gives[gives > 0.0]
    return float(np.quantile(gives, USUAL_DRAW)) if gives.size else 0.0


def disconnect_rows(run: Run) -> Iterator[SetPoint]:
    """A low-voltage disconnect: a relay, a controller's load output, a battery guard."""
    case = run.case
    cut = cut_off_at(case, usual_draw_a(run))
    flat = "" if case.bank.chemistry.lead else " A monitor's relay that goes by percent is better."
    yield SetPoint(
        "off",
        "Loads off below",
        volts(cut.off_v),
        volts_span(cut.empty_v + ABOVE_EMPTY_V * case.bank.system_v / CLASS_V, cut.rests_v),
        f"What it shows at {100 * case.floor:.0f} % while {cut.draw_a:.1f} A are drawn.{flat}",
        "Lower: the reserve is used up unseen. Higher: a pump that starts cuts everything off.",
    )
    yield SetPoint(
        "delay",
        "Only after",
        "60 s",
        "30 to 120 s",
        "A motor that starts pulls the voltage down for a moment.",
        "Without it a full box is cut off.",
    )
    yield SetPoint(
        "on",
        "On again above",
        volts(cut.on_v),
        volts_span(cut.rests_v + 0.1, absorption_to_set(case, case.profile)),
        "With a good part of its content back.",
        "Nearer: the battery springs back without its load, and everything goes on and off.",
    )


def inverter_rows(run: Run, inverter: Inverter) -> Iterator[SetPoint]:
    """Where an inverter stops, begins anew, and how it waits."""
    case = run.case
    full_a = inverter.rating_w / inverter.efficiency / case.bank.nominal_v
    cut = cut_off_at(case, full_a)
    yield SetPoint(
        "off",
        "Stops below",
        volts(cut.off_v),
        volts_span(cut.empty_v, cut.rests_v),
        f"What the battery shows at {100 * case.floor:.0f} % with {inverter.rating_w:g} W on it, "
        f"some {full_a:.0f} A.",
        "Lower: it empties the battery. Higher: it stops under load with the battery half full.",
    )
    yield SetPoint(
        "on",
        "Begins anew above",
        volts(cut.on_v),
        volts_span(cut.rests_v + 0.1, absorption_to_set(case, case.profile)),
        "Once something has been charged.",
        "Nearer: it goes on and off, and what hangs on it with it.",
    )
    yield SetPoint(
        "waits",
        "Waiting, search or eco mode",
        "off; switch it by hand" if not inverter.always_on else "on, if what it feeds bears it",
        "as its book says",
        f"It draws {inverter.idle_w:g} W with nothing plugged in.",
        "Small loads do not wake it; left on for nothing it empties the box.",
    )
