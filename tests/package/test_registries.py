"""A kind stands in its own record: no other file of the program names its key."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

import pytest

from oddkettle.core.estimation.readings import READING_KINDS
from oddkettle.core.sources import SOURCE_KINDS

SOURCES = Path(__file__).resolve().parents[2] / "src" / "oddkettle"
OF_A_SOURCE = {
    "core/trip/blocks.py",
    "plan/box.py",
    "usecases/onboarding/chargers.py",
}
"""Where a kind of source is added besides the files that are called after it."""
RULED = {"sun", "vehicle", "mains"}
"""Without these there is no box: the model speaks of light, an engine and a hook-up by name."""
ALSO = {"generator": {"usecases/field/log/kinds.py"}}
"""A generator's run is an entry of the log."""
FIELDS = {"percent", "full", "ah_in", "ah_out", "wh_in", "wh_out", "gross_in", "gross_out"}
"""These are the names of fields and columns as well."""


CHECKED = {"plan/parts.py", "core/estimation/counted_capacity.py"}
"""They name a field of the data sheet that has the name of a reading."""


def literals(path: Path) -> Iterator[str]:
    """Every string of a module but its docstrings' and annotations' words."""
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield node.value


def files_that_name(key: str) -> set[str]:
    return {
        str(path.relative_to(SOURCES))
        for path in SOURCES.rglob("*.py")
        if key in set(literals(path))
    }


@pytest.mark.parametrize("key", [key for key in SOURCE_KINDS if key not in RULED])
def test_a_kind_of_source_is_named_in_its_own_files_alone(key: str) -> None:
    own = {f"core/sources/{key}.py", f"plan/sources/{key}.py", f"core/judgement/sources/{key}.py"}
    assert files_that_name(key) - own - OF_A_SOURCE - ALSO.get(key, set()) == set()


@pytest.mark.parametrize("key", [key for key in READING_KINDS if key not in FIELDS])
def test_a_kind_of_reading_is_named_in_its_own_room_and_the_logs(key: str) -> None:
    named = {
        name
        for name in files_that_name(key)
        if not name.startswith("core/estimation/readings/")
        and name not in {"usecases/field/log/kinds.py", *CHECKED}
    }
    assert named - ALSO.get(key, set()) == set()
