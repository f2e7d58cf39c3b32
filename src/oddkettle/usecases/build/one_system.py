"""One system of cable sizes for one reader: mm2 among AWG on one list can end in a fire.

A box whose owner buys AWG, or whose reader writes AWG, is sized in AWG and told in AWG throughout.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace

from oddkettle.plan import Plan
from oddkettle.text.habits import read_by, reader


def in_awg(plan: Plan) -> bool:
    """Whether the plan's owner or its reader goes by AWG."""
    return plan.build.cable_series == "awg" or reader().cable == "AWG"


def in_one_system(plan: Plan) -> Plan:
    """The plan with cables chosen from the sizes in which its reader is told of them."""
    if plan.build.cable_series == "awg" or not in_awg(plan):
        return plan
    build = plan.build.model_copy(update={"cable_series": "awg"})
    return plan.model_copy(update={"build": build})


@contextmanager
def written_in_one_system(plan: Plan) -> Iterator[None]:
    """While this lasts, cables are written in the system in which the plan's are chosen."""
    if not in_awg(plan):
        yield
        return
    with read_by(replace(reader(), cable="AWG")):
        yield
