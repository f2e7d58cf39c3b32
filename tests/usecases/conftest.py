"""A plan in the store, bare and with the demo's own log."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from pathlib import Path

import pytest

from oddkettle.plan import Plan
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.improve.seek import Sought, Tried
from oddkettle.usecases.plans.plans import create_plan
from oddkettle.usecases.service.demo import ENTRIES


@pytest.fixture
def plan_id(store: Path, moth: Plan) -> int:
    return create_plan(moth).id


@pytest.fixture
def logged(plan_id: int) -> int:
    """The demo's own log on its plan."""
    for new in ENTRIES["moth-survey"]:
        add_entry(plan_id, new)
    return plan_id


def percent(plan_id: int, day: int, hour: int, value: float) -> int:
    """Log that the monitor says so many percent at an hour of June 2026; the entry's id."""
    at = datetime(2026, 6, day, hour)
    return add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=value)).id


def sought_of(lines: Iterable[Tried | Sought]) -> Sought:
    """The answer of a goal seek, without what was tried on the way."""
    return next(line for line in lines if isinstance(line, Sought))
