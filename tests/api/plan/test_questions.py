"""What the pages ask beside the run: sums, moments, schools, measuring; and how they refuse."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from oddkettle.api.app import create_app


@pytest.fixture
def client(store: Path) -> TestClient:
    return TestClient(create_app())


def ask(client: TestClient, path: str, document: dict[str, Any], **params: object) -> Any:
    answer = client.post(f"/api/{path}", json=document, params=params)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_a_sum_comes_with_words_lines_and_sources(
    client: TestClient, document: dict[str, Any]
) -> None:
    found = ask(client, "sum", document, figure="source:panels", day=2)
    assert found["title"].endswith("Mon 8")
    assert found["lines"][-1]["text"]
    assert found["lines"][0]["value"].endswith(" Ah")
    assert all(constant["source"] for constant in found["constants"])


def test_a_moment_is_the_series_at_that_step(client: TestClient, document: dict[str, Any]) -> None:
    run = ask(client, "preview", document, advice=False)
    step = 140
    found = ask(client, "instant", document, step=step)
    assert found["level_percent"] == pytest.approx(run["series"]["level_percent"][step], abs=0.01)
    assert found["volts"] == pytest.approx(run["series"]["volts"][step], abs=0.01)
    assert found["used"]["ah"] == pytest.approx(run["series"]["load_a"][step], abs=0.02)


def test_schools_answer_with_figures_or_a_reason(
    client: TestClient, document: dict[str, Any]
) -> None:
    for school in ask(client, "schools", document):
        for option in school["options"]:
            assert option["refused"] or option["lowest_percent"] is not None


def test_judgements_come_with_advice_only(client: TestClient, document: dict[str, Any]) -> None:
    document["box"]["battery"]["absorption_v"] = 15.0
    assert ask(client, "preview", document, advice=False)["judgements"] is None
    first = ask(client, "preview", document)["judgements"][0]
    assert (first["severity"], first["part"]) == ("danger", "battery")
    edit = first["fix"]["edits"][0]
    assert edit == {"path": ["box", "battery", "absorption_v"], "value": 14.2}


@pytest.mark.parametrize(
    ("path", "params", "text"),
    [
        ("sum", {"figure": "nonsense"}, "nonsense"),
        ("sum", {"figure": "taken", "day": 40}, "0 to 8"),
        ("instant", {"step": -1}, "0 to 2591"),
        ("instant", {"step": 99999}, "0 to 2591"),
    ],
)
def test_what_is_not_there_is_a_problem_of_its_own(
    client: TestClient, document: dict[str, Any], path: str, params: dict[str, Any], text: str
) -> None:
    answer = client.post(f"/api/{path}", json=document, params=params)
    assert answer.status_code == 404
    assert answer.headers["content-type"] == "application/problem+json"
    assert text in answer.json()["detail"]


@pytest.mark.parametrize("path", ["sum?figure=taken", "instant?step=0", "schools"])
def test_a_plan_that_cannot_be_is_refused_by_every_question(
    client: TestClient, document: dict[str, Any], path: str
) -> None:
    document["box"]["system_v"] = 24
    answer = client.post(f"/api/{path}", json=document)
    assert answer.status_code == 422
    complaint = answer.json()["complaints"][0]
    assert complaint["value"]
    assert complaint["limit"]
    assert complaint["remedy"]


def test_measuring_refuses_what_is_out_of_bounds_at_the_field(
    client: TestClient, document: dict[str, Any]
) -> None:
    counted = {"appliance": "laptop", "before": 1, "after": 2, "hours": 9000}
    answer = client.post("/api/measure", json={"document": document, "counted": counted})
    assert answer.status_code == 422
    complaint = answer.json()["complaints"][0]
    assert complaint["where"].endswith("hours")
    assert "2000" in complaint["limit"].replace(",", "")


def test_measuring_answers_with_edits_that_the_plan_takes(
    client: TestClient, document: dict[str, Any]
) -> None:
    counted = {"appliance": "coolbox", "before": 100, "after": 130, "hours": 24, "air_c": 15}
    got = client.post("/api/measure", json={"document": document, "counted": counted}).json()
    for edit in got["replaces"]["edits"]:
        at: Any = document
        for step in edit["path"][:-1]:
            at = at[step]
        at[edit["path"][-1]] = edit["value"]
    cool = next(a for a in document["use"]["appliances"] if a["id"] == "coolbox")
    assert cool["figure"] == "measured"
    assert cool["power_w"] == 43
    assert ask(client, "preview", document, advice=False)["use"]["guess_percent"] < 100


def test_choices_bring_ranges_cautions_and_where_they_come_from(client: TestClient) -> None:
    found = client.get("/api/reference").json()
    for item in found["shelf"]:
        assert item["low_w"] <= item["appliance"]["power_w"] <= item["high_w"]
        assert item["source"]
        assert 0 < item["appliance"]["spread_percent"] <= 90
    assert all(caution["source"] and caution["about"] for caution in found["cautions"])
