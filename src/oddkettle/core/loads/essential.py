"""May this load be switched off, or used less? The one place that answers it.

Alarms, improvements, mends, schedules, shedding, quiet hours, judgements and circuits ask here.
Nothing that must run is ever offered for switching off, for fewer hours, for another set point or
another time: somebody's health may hang on it.
"""

from __future__ import annotations

from typing import Protocol

MEDICAL_WORDS = (
    "breath", "ventilator", "oxygen", "cpap", "bipap", "apap", "apnoea", "apnea", "nebuli",
    "insulin", "medicine", "medication", "medical", "vaccine", "dialysis", "feeding pump",
    "infusion", "suction pump", "pacemaker", "concentrator",
)  # fmt: skip
"""Words in a name that tell of something on which health hangs [judgement]."""


class Load(Protocol):
    """Whatever draws power under a name: an appliance of the plan, of the core, or its series.

    A `medical` one has the priority "must" wherever it is made (`plan/use.py`, `Appliance`).
    """

    @property
    def name(self) -> str:
        """What its owner calls it."""

    @property
    def priority(self) -> str:
        """Whether it goes first, when it must, or never."""


def sounds_medical(name: str) -> bool:
    """Whether a name tells of something on which health hangs, marked or not."""
    low = name.lower()
    return any(word in low for word in MEDICAL_WORDS)


def must_run(load: Load) -> bool:
    """Whether it must not be cut: its owner said so, or its name tells that health hangs on it.

    The mark counts by itself too, so that nothing hangs on who has carried it over to the priority.
    """
    marked: bool = getattr(load, "medical", False)
    return marked or load.priority == "must" or sounds_medical(load.name)


def may_be_cut(load: Load) -> bool:
    """Whether it may be switched off, run for fewer hours, at another time, or less cold."""
    return not must_run(load)
