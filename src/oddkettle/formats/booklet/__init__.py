"""The bench booklet: everything about building a box, on paper."""

from typing import Literal, get_args

Section = Literal[
    "cautions", "schematic", "circuits", "parts", "fit", "faces", "template", "checks", "faults"
]
"""A part of the booklet. Named here, for what prints it takes long to load."""
SECTIONS: tuple[Section, ...] = get_args(Section)
