"""Names of circuits and parts in a plan: those that could mean something, of this box or another.

A name whose source or appliance the plan no longer has is kept, so that undo brings all of it
back; one that no box could have is a slip, and is refused.
"""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import AfterValidator, StringConstraints
from pydantic_core import PydanticCustomError

CIRCUITS = (
    "battery", "second", "inverter", "converter", "converter-out", "heater", "sense",
    "charge-combined",
)  # fmt: skip
CIRCUITS_OF = ("panel", "feed", "charge", "outlet", "own", "shared", "usb", "output")
"""Before a hyphen and the id of a source, of an appliance, or a number."""
PARTS = (
    "battery", "second", "inverter", "converter", "heater", "shunt", "voltmeter", "rcd", "block",
    "block:low", "bars", "isolator", "isolator:second", "boots", "links", "clamps", "labels",
    "selector", "enclosure", "shelf", "vents", "battery-box", "straps", "straps:battery", "unit",
)  # fmt: skip
PARTS_OF = (
    "charger", "panel", "fuse", "spare", "holder", "cable", "lug", "ferrule", "push_on", "shrink",
    "plug", "mains-outlet", "contact", "lacks",
)  # fmt: skip
"""Before a colon and what tells one from another: a source, a size, a family."""

_CIRCUIT = re.compile(rf"({'|'.join(CIRCUITS)}|({'|'.join(CIRCUITS_OF)})-[\w.-]+)")
_PART = re.compile(rf"({'|'.join(PARTS)}|({'|'.join(PARTS_OF)}):[\w.:-]+)")


def _circuit(name: str) -> str:
    if not _CIRCUIT.fullmatch(name):
        starts = ", ".join(f"{stem}-..." for stem in CIRCUITS_OF)
        raise _refusal("circuit", name, f"{', '.join(CIRCUITS)}, {starts}")
    return name


def _part(name: str) -> str:
    # A second one of a kind stands elsewhere: battery.2 and so on.
    if not _PART.fullmatch(re.sub(r"\.\d+$", "", name)):
        starts = ", ".join(f"{stem}:..." for stem in PARTS_OF)
        raise _refusal("part", name, f"{', '.join(PARTS)}, {starts}")
    return name


def _refusal(noun: str, name: str, limit: str) -> PydanticCustomError:
    return PydanticCustomError(
        "name",
        "{value} names no {noun} that a box could have.",
        {
            "value": name,
            "noun": noun,
            "limit": limit,
            "remedy": f"Copy the {noun}'s name from the Build page's own list, or take it out.",
        },
    )


Short = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_.:-]{1,80}$")]
CircuitName = Annotated[Short, AfterValidator(_circuit)]
PartName = Annotated[Short, AfterValidator(_part)]
ItemName = Short
"""Something on a face; those that the plan no longer has are kept."""
