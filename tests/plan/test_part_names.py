"""Names of circuits and parts: those that the tool makes are known, slips are refused."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from pydantic import TypeAdapter

from oddkettle.core.construction.design import OwnBuild, build_up
from oddkettle.core.construction.enclosure.bodies import bodies_of
from oddkettle.core.simulation.run import simulate
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.part_names import CircuitName, PartName
from tests.conftest import EXAMPLES, example
from tests.core.construction.boxes import full_case
from tests.plan.test_document import put, refusal

CIRCUIT: TypeAdapter[str] = TypeAdapter(CircuitName)
PART: TypeAdapter[str] = TypeAdapter(PartName)
NAMES = [path.stem for path in sorted(EXAMPLES.glob("*.json"))]


@pytest.mark.parametrize("name", [*NAMES, "full"])
def test_every_name_that_the_tool_makes_is_one_that_it_takes(name: str) -> None:
    case = full_case() if name == "full" else case_from_plan(example(name))
    built = build_up(simulate(case), OwnBuild(), name)
    assert built.lines
    for circuit in built.board.circuits:
        assert CIRCUIT.validate_python(circuit.key) == circuit.key
    for line in built.lines:
        assert PART.validate_python(line.article.key) == line.article.key
    for body in bodies_of(built.lines):
        assert PART.validate_python(body.key) == body.key


@pytest.mark.parametrize(
    ("path", "value", "says"),
    [
        ("build.circuits", [{"circuit": "batery"}], "'batery' names no circuit"),
        ("build.circuits", [{"circuit": "roof-panel"}], "'roof-panel' names no circuit"),
        ("build.circuits", [{"circuit": "battery", "fuse_with": "x"}], "'x' names no circuit"),
        ("build.parts", [{"part": "my_fuse"}], "'my_fuse' names no part"),
        ("build.placed", [{"part": "cargo", "x_mm": 1, "y_mm": 1}], "'cargo' names no part"),
    ],
)
def test_names_that_no_box_could_have_are_refused(
    document: dict[str, Any], path: str, value: object, says: str
) -> None:
    said = refusal(put(document, path, value))
    assert says.replace("'", "") in said.text.replace("'", "")
    assert said.where.startswith(path)
    assert "battery" in said.limit
    assert "Build page" in said.remedy


@pytest.mark.parametrize("name", ["panel-sold", "outlet-gone", "shared-7", "own-12"])
def test_what_the_plan_no_longer_has_is_kept(document: dict[str, Any], name: str) -> None:
    assert CIRCUIT.validate_python(name) == name
    kept = put(document, "build.circuits", [{"circuit": name, "run_m": 2}])
    assert case_from_plan_of(kept).wiring.of(name).run_m == 2


def case_from_plan_of(document: dict[str, Any]) -> Any:

    return case_from_plan(Plan.model_validate(document))


def test_part_keys_are_told_in_the_docs() -> None:
    told = (Path(__file__).resolve().parents[2] / "docs" / "formats.md").read_text()
    from oddkettle.plan.part_names import PARTS, PARTS_OF

    for key in (*PARTS, *(f"{stem}:" for stem in PARTS_OF)):
        assert f"`{key}" in told, key
