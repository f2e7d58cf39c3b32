"""The battery monitor: what it must know to count right."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from oddkettle.core.battery.bank import coulombic_efficiency
from oddkettle.core.construction.settings.charging import absorption_to_set, float_to_set
from oddkettle.core.construction.settings.set_point import SetPoint, amps, volts, volts_span
from oddkettle.core.simulation.case import Case
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.units.conversion import CLASS_V

TAIL_SPAN = (0.02, 0.04)
"""Tail current of a monitor, of capacity [textbook]."""
TAIL_ABOVE = 0.01
"""So much above the charger's own end: the monitor must see full before absorption ends."""
UNDER_V = 0.2
"""Charged voltage lies so far under absorption [textbook, 12 V class]."""
WARNS_ABOVE = 0.1
"""The low alarm sounds so far above the reserve [judgement]."""


def charge_efficiency(case: Case) -> float:
    """Share 0..1 of what goes in between the reserve and full that comes out again."""
    level = np.linspace(case.floor, 1.0, 101)
    taken = 1.0 / coulombic_efficiency(case.bank.chemistry, level)
    return float(1.0 / taken.mean())


def charged_v(case: Case, profiles: tuple[Profile, ...]) -> tuple[float, float, float]:
    """(to set, low, high): above every float, below the lowest absorption that fills it [V]."""
    by_class = case.bank.system_v / CLASS_V
    fills = [p for p in profiles if not p.one_voltage] or [case.profile]
    high = min(absorption_to_set(case, p) for p in fills) - 0.1 * by_class
    low = min(max(float_to_set(case, p) for p in fills) + 0.1 * by_class, high)
    return min(max(high - (UNDER_V - 0.1) * by_class, low), high), low, high


def monitor_rows(case: Case, profiles: tuple[Profile, ...]) -> Iterator[SetPoint]:
    """Its settings; `profiles` are those of all chargers of the box."""
    chemistry = case.bank.chemistry
    holds = case.bank.capacity_ah * case.bank.share
    yield SetPoint(
        "capacity",
        "Capacity",
        amps_hours(holds),
        "what a test found; else the label, less with age",
        "It divides what it counts by this.",
        "Too large: it says 30 % when the box is empty.",
        "A capacity test on Log tells it." if not case.doubt.capacity_told else "",
    )
    value, low, high = charged_v(case, profiles)
    yield SetPoint(
        "charged",
        "Charged voltage",
        volts(value),
        volts_span(low, high),
        "Above float and below absorption: so it knows full when it sees it.",
        "Too high: it never says full and drifts. Too low: it says full in the first sun.",
    )
    tail = min(max(chemistry.tail_c + TAIL_ABOVE, TAIL_SPAN[0]), TAIL_SPAN[1])
    yield SetPoint(
        "tail",
        "Tail current",
        f"{100 * tail:g} % ({amps(tail * holds)})",
        f"{100 * TAIL_SPAN[0]:g} to {100 * TAIL_SPAN[1]:g} %",
        f"Above the {100 * chemistry.tail_c:g} % at which chargers end absorption.",
        "Smaller than theirs: it waits for a current that is never seen.",
    )
    yield SetPoint(
        "detection",
        "Charged for",
        "3 min",
        "2 to 5 min",
        "Both must hold so long before it says 100 %.",
        "Shorter: a cloud makes the current fall, and it says full at noon.",
    )
    yield SetPoint(
        "peukert",
        "Peukert exponent",
        f"{chemistry.peukert:.2f}",
        "1.10 to 1.25" if chemistry.lead else "1.00 to 1.05",
        "How much less comes out at a great current: " + chemistry.sources["peukert"].text + ".",
        "Wrong, it is many points out after an evening with the inverter on."
        if chemistry.lead
        else "Lead's 1.25 would make it say empty far too soon.",
    )
    efficiency = charge_efficiency(case)
    yield SetPoint(
        "efficiency",
        "Charge efficiency",
        # Rounded down: a monitor that believes a little too little corrects itself at full.
        f"{math.floor(100 * efficiency)} %",
        "85 to 96 %" if chemistry.lead else "98 to 100 %",
        "What goes in does not all come out again.",
        "Too high: it says full a little too soon, each day a little more.",
    )
    yield SetPoint(
        "alarm",
        "Low alarm",
        f"{100 * (case.floor + WARNS_ABOVE):.0f} %",
        f"above the reserve of {100 * case.floor:.0f} %",
        "Time left to do something.",
        "At the reserve itself it is too late.",
    )
    yield SetPoint(
        "sync",
        "Set to 100 % by hand",
        "after the first full charge",
        "once a month it must see full by itself",
        "It counts from there.",
        "A monitor that never saw full shows a guess.",
    )


def amps_hours(value: float) -> str:
    """A capacity [Ah] as a monitor takes it."""
    return f"{value:.0f} Ah"
