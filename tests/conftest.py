"""What many tests share: the example plans and a store of their own."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from zlib import crc32

import pytest
from hypothesis import settings
from hypothesis.internal.conjecture import providers

from oddkettle.core.simulation.run import Case
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.store.file.database import open_database
from tests.support.tiers import TIER, examples

LEFT_OUT: dict[str, set[str]] = {
    "quick": {"slow", "nightly"},
    "test": {"nightly"},
    "nightly": set(),
}


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Leave out what this tier does not try."""
    out = {
        item
        for item in items
        if LEFT_OUT[TIER] & {mark.name for mark in item.iter_markers()}
        or (TIER != "nightly" and _at_the_other_width(item))
    }
    if out:
        config.hook.pytest_deselected(items=list(out))
        items[:] = [item for item in items if item not in out]


def _at_the_other_width(item: pytest.Item) -> bool:
    """Whether a browser test that can run at two widths is this time run at the other one.

    Which one is told by its name, so that half of them are on a phone; of two colour schemes one is
    taken likewise. `make nightly` runs them all.
    """
    spec = getattr(item, "callspec", None)
    widths = {"desk", "phone"}
    asked = {mark.args[0] for mark in item.iter_markers("parametrize")}
    if spec is None or "page" in asked:
        return False
    width = spec.params.get("page") or spec.params.get("person")
    if width not in widths:
        return False
    name = item.nodeid.split("[")[0]
    others = "-".join(part for part in spec.id.split("-") if part not in widths | {"day", "night"})
    chosen = crc32(f"{name} {others}".encode())
    wrong_scheme = spec.params.get("scheme", "day") != ("day", "night")[chosen // 2 % 2]
    at_night = "scheme" in spec.params and wrong_scheme
    return at_night or width != sorted(widths)[chosen % 2]


# The same random boxes every time, so that a run says something about the change and not about
# luck; HYPOTHESIS_PROFILE=search, and a whole night, look at new ones.
settings.register_profile("steady", derandomize=True, deadline=None, max_examples=examples(100))
settings.register_profile("search", print_blob=True, deadline=None, max_examples=examples(100))
# The library also draws on numbers that it finds in the source: then any edit, and any choice of
# test files, would shift every box. Leave its list empty.
providers._get_local_constants = lambda: providers._local_constants
settings.load_profile(
    os.environ.get(
        "HYPOTHESIS_PROFILE",
        "search" if TIER == "nightly" and "ODDKETTLE_TURN" not in os.environ else "steady",
    )
)

EXAMPLES = Path(__file__).resolve().parents[1] / "examples" / "plans"
NOW = "2026-06-01T12:00:00+00:00"


def example(name: str) -> Plan:
    return parse_plan((EXAMPLES / f"{name}.json").read_bytes())


def document_of(name: str) -> dict[str, Any]:
    """An example as a whole document: what it leaves out stands in it as usual."""
    found: dict[str, Any] = json.loads(example(name).model_dump_json(exclude_none=True))
    return found


@pytest.fixture
def moth() -> Plan:
    return example("moth-survey")


@pytest.fixture
def moth_case(moth: Plan) -> Case:
    return case_from_plan(moth)


@pytest.fixture
def document(moth: Plan) -> dict[str, Any]:
    """The demo plan as a plain document that a test may spoil."""
    return json.loads(moth.model_dump_json(exclude_none=True))


@pytest.fixture
def store(tmp_path: Path) -> Iterator[Path]:
    """An empty database, open; its path."""
    path = tmp_path / "box.sqlite3"
    db = open_database(path, NOW)
    yield path
    db.close()
