"""Building over the API: the document, the files, the ticks, and whatever else is sent."""

from __future__ import annotations

import copy
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from oddkettle.api.app import create_app
from oddkettle.usecases.service.demo import fill_demo
from tests.api.test_any_document import CLIENT, SAMPLE, Changes, answered, junk, paths, spoiled
from tests.conftest import EXAMPLES
from tests.support.tiers import examples

FULL_BUILD: dict[str, Any] = {
    "cable_series": "awg",
    "ambient_c": 35,
    "main_fuse_mm": 150,
    "shunt": True,
    "circuits": [
        {
            "circuit": "inverter",
            "run_m": 1.2,
            "cable_mm2": 16,
            "protection": "fuse",
            "family": "strip",
            "fuse_a": 50,
            "connector": "lug",
            "returns": "load_side",
            "bundled": True,
            "engine_bay": False,
            "disconnect": True,
            "string_fuses": True,
            "fuse_with": "battery",
        }
    ],
    "outlets": [
        {
            "outlet": "own-1",
            "name": "Tailgate",
            "usb": False,
            "appliances": ["trap"],
            "spare_a": 4,
        }
    ],
    "waste_percent": 15,
    "parts": [{"part": "battery", "owned": True, "euro": 400, "kg": 11, "length_mm": 320}],
    "enclosure": {"length_mm": 600, "wall_mm": 15, "material": "plastic", "empty_kg": 6},
    "placed": [{"part": "battery", "x_mm": 20, "y_mm": 20, "z_mm": 0, "turned": True}],
    "items": [{"item": "meter", "face": "front", "x_mm": 100, "y_mm": 200, "hole_mm": 55}],
    "paper": "letter",
}
WHOLE = {**SAMPLE, "build": FULL_BUILD}
PLACES = [("build", *place) for place in paths(FULL_BUILD)]


@pytest.fixture
def client(store: Path) -> TestClient:
    fill_demo(EXAMPLES, "moth-survey")
    return TestClient(create_app())


@settings(
    max_examples=examples(150),
    deadline=None,
    derandomize=True,
    suppress_health_check=[HealthCheck.too_slow],
)
@given(st.lists(st.tuples(st.sampled_from(PLACES), junk), min_size=1, max_size=3))
def test_any_spoiled_building_is_answered(changes: Changes) -> None:
    answered(CLIENT.post("/api/build", json=spoiled(WHOLE, changes)), "circuits")


def test_an_unspoiled_building_gets_a_result() -> None:
    assert answered(CLIENT.post("/api/build", json=WHOLE), "circuits")


def test_everything_that_can_be_fixed_is_kept(client: TestClient) -> None:
    plan = client.get("/api/plans/1").json()
    body = {"base_revision": plan["revision"], "did": "built", "document": WHOLE}
    saved = client.put("/api/plans/1", json=body)
    assert saved.status_code == 200
    again = client.get("/api/plans/1").json()["document"]["build"]
    for key, value in FULL_BUILD.items():
        if isinstance(value, list):
            kept = {k: v for k, v in again[key][0].items() if v is not None}
            assert kept.items() >= value[0].items()
        elif not isinstance(value, dict):
            assert again[key] == value


def test_a_cable_of_no_length_is_refused_with_value_limit_and_remedy(client: TestClient) -> None:
    document = copy.deepcopy(WHOLE)
    document["build"]["circuits"][0]["run_m"] = 0
    problem = client.post("/api/build", json=document)
    assert problem.status_code == 422
    (complaint,) = problem.json()["complaints"]
    assert complaint["where"] == "build.circuits.0.run_m"
    assert complaint["value"] == "0"
    assert "0.05" in complaint["limit"]
    assert "m" in complaint["limit"]
    assert complaint["remedy"]


def test_a_part_named_twice_is_refused(client: TestClient) -> None:
    document = copy.deepcopy(WHOLE)
    document["build"]["placed"] *= 2
    problem = client.post("/api/build", json=document).json()
    assert "Two placed parts have the id battery" in problem["detail"]


@pytest.mark.parametrize(
    ("outlet", "where"),
    [
        ({"outlet": "battery", "name": "No outlet"}, "outlet"),
        ({"outlet": "own-1", "name": ""}, "name"),
        ({"outlet": "own-1", "name": "Too much", "spare_a": 61}, "spare_a"),
        ({"outlet": "own-1", "name": "Less than nothing", "spare_a": -1}, "spare_a"),
    ],
)
def test_an_outlet_that_cannot_be_is_refused_where_it_is_wrong(
    client: TestClient, outlet: dict[str, Any], where: str
) -> None:
    document = copy.deepcopy(WHOLE)
    document["build"]["outlets"] = [outlet]
    problem = client.post("/api/build", json=document)
    assert problem.status_code == 422
    (complaint,) = problem.json()["complaints"]
    assert complaint["where"] == f"build.outlets.0.{where}"
    assert complaint["limit"]
    assert complaint["remedy"]


def test_an_outlet_of_ones_own_holds_what_is_plugged_in_there(client: TestClient) -> None:
    report = client.post("/api/build", json=WHOLE).json()
    outlet = next(c for c in report["circuits"] if c["key"] == "own-1")
    assert (outlet["name"], outlet["own"], outlet["spare_a"]) == ("Tailgate", True, 4.0)
    assert [held["key"] for held in outlet["holds"]] == ["trap"]
    elsewhere = [h["key"] for c in report["circuits"] if c["key"] != "own-1" for h in c["holds"]]
    assert "trap" not in elsewhere
    assert "Tailgate" in {fitting["name"] for fitting in report["faces"]["fittings"]}


def test_old_plans_without_a_building_are_built_all_the_same(client: TestClient) -> None:
    document = {key: value for key, value in SAMPLE.items() if key != "build"}
    report = client.post("/api/build", json=document).json()
    assert len(report["circuits"]) == 12


@pytest.mark.parametrize(
    ("name", "kind"),
    [
        ("booklet.pdf", "application/pdf"),
        ("schematic.svg", "image/svg+xml"),
        ("parts.csv", "text/csv"),
    ],
)
def test_files_come_with_their_kind_and_a_name(client: TestClient, name: str, kind: str) -> None:
    answer = client.get(f"/api/plans/1/print/{name}")
    assert answer.status_code == 200
    assert answer.headers["content-type"].startswith(kind)
    assert name in answer.headers["content-disposition"]


def test_a_sheet_that_is_none_and_a_plan_that_is_none_are_told(client: TestClient) -> None:
    assert client.get("/api/plans/1/print/poem.pdf").status_code == 422
    assert client.get("/api/plans/99/print/booklet.pdf").status_code == 404
    assert client.get("/api/plans/99/ticks").status_code == 404


def test_a_table_of_prices_changes_nothing_by_itself(client: TestClient) -> None:
    plan = client.get("/api/plans/1").json()
    body = {"document": plan["document"], "table": "part,euro_each\nshunt,60\n"}
    got = client.post("/api/build/prices", json=body).json()
    assert got["parts"][0]["euro"] == 60
    assert client.get("/api/plans/1").json()["revision"] == plan["revision"]


def test_a_bad_table_is_refused_by_its_line(client: TestClient) -> None:
    body = {"document": SAMPLE, "table": "part,euro_each\nshunt,a lot\n"}
    problem = client.post("/api/build/prices", json=body)
    assert problem.status_code == 422
    assert problem.json()["complaints"][0]["where"] == "line 2, euro_each"


def test_ticks_are_made_and_taken_back(client: TestClient) -> None:
    new = {"checklist": "first", "check": "torque", "text": "Every stud"}
    made = client.post("/api/plans/1/ticks", json=new)
    assert made.status_code == 201
    (tick,) = made.json()["now"]
    assert client.get("/api/plans/1/ticks").json() == made.json()
    gone = client.delete(f"/api/plans/1/ticks/{tick['entry']}")
    assert gone.json()["now"] == []
    assert client.delete("/api/plans/1/ticks/9999").status_code == 404


def test_a_tick_is_not_made_from_the_logs_own_form(client: TestClient) -> None:
    answer = client.post("/api/plans/1/log", json={"at": "2026-06-07T08:00", "kind": "ticked"})
    assert answer.status_code == 422
    assert "Build page" in answer.json()["detail"]
