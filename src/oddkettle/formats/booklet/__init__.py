"""The bench booklet: everything about building a box, on paper."""

from dataclasses import dataclass
from typing import Literal, get_args

Section = Literal[
    "cautions", "unit", "schematic", "circuits", "parts", "fit", "faces", "template",
    "settings", "checks", "faults",
]  # fmt: skip
"""A part of the booklet. Named here, for what prints it takes long to load."""
SECTIONS: tuple[Section, ...] = get_args(Section)


@dataclass(frozen=True)
class Ticked:
    """A check that is done: the day, and what was measured, where something was."""

    day: str
    measured: str = ""
