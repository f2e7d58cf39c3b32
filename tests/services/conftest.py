"""A plan in the store, bare and with the demo's own log."""

from __future__ import annotations

from pathlib import Path

import pytest

from oddkettle.plan import Plan
from oddkettle.services.demo import ENTRIES
from oddkettle.services.log import add_entry
from oddkettle.services.plans import create_plan


@pytest.fixture
def plan_id(store: Path, moth: Plan) -> int:
    return create_plan(moth).id


@pytest.fixture
def logged(plan_id: int) -> int:
    """The demo's own log on its plan."""
    for new in ENTRIES:
        add_entry(plan_id, new)
    return plan_id
