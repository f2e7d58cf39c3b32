"""Long questions answer in lines, refuse before the first one, and stop when nobody listens."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pvlib
import pytest
from fastapi.testclient import TestClient

from oddkettle.api.app import create_app

YEARS = Path(pvlib.__file__).parent / "data"


@pytest.fixture
def client(store: Path) -> TestClient:
    return TestClient(create_app())


def lines(answer: Any) -> list[dict[str, Any]]:
    assert answer.headers["content-type"] == "application/x-ndjson"
    return [json.loads(line) for line in answer.text.splitlines()]


@pytest.fixture
def few(document: dict[str, Any]) -> dict[str, Any]:
    document["assumptions"]["scenarios"] = 20
    return document


def test_weighing_comes_in_lines(client: TestClient, few: dict[str, Any]) -> None:
    first, *rest = lines(client.post("/api/improve/weigh", json=few))
    assert first["kind"] == "base"
    assert len(rest) == first["changes"]
    assert {line["kind"] for line in rest} == {"change"}


def test_the_first_line_is_there_before_the_work_is_done(
    client: TestClient, few: dict[str, Any], monkeypatch: pytest.MonkeyPatch
) -> None:
    from oddkettle.usecases.improve import sizes

    looked = []
    real = sizes.certainties
    monkeypatch.setattr(sizes, "certainties", lambda *given: looked.append(1) or real(*given))
    with client.stream("POST", "/api/improve/sizes", json=few) as answer:
        first = json.loads(next(answer.iter_lines()))
    assert first["kind"] == "start"
    # The plan's own place and at most what was under way: not the thirteen parts of the search.
    assert first["designs"] == 2016


@pytest.mark.parametrize(
    ("path", "spoil", "text"),
    [
        ("weigh", {"scenarios": 0}, "scenarios"),
        ("sizes", {"scenarios": 10_000_000}, "scenarios"),
    ],
)
def test_what_cannot_be_is_refused_as_a_problem(
    client: TestClient, document: dict[str, Any], path: str, spoil: dict[str, Any], text: str
) -> None:
    document["assumptions"] |= spoil
    answer = client.post(f"/api/improve/{path}", json=document)
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    said = answer.json()["complaints"][0]
    assert text in said["where"]
    assert all((said["value"], said["limit"], said["remedy"]))


def test_a_goal_is_sought_and_a_wrong_one_refused(client: TestClient, few: dict[str, Any]) -> None:
    *tried, last = lines(
        client.post("/api/improve/seek", json={"document": few, "goal": {"knob": "battery"}})
    )
    assert {line["kind"] for line in tried} == {"tried"}
    assert last["kind"] == "sought"
    wrong = {"document": few, "goal": {"knob": "drive", "day": 40}}
    refused = client.post("/api/improve/seek", json=wrong)
    assert refused.status_code == 422
    assert "no day 41" in refused.json()["detail"]


def test_a_size_becomes_edits(client: TestClient, few: dict[str, Any]) -> None:
    sizes = {"panel_w": 340, "battery_ah": 130, "dcdc_a": 0, "mains_a": 20}
    remedy = client.post("/api/improve/sizes/edits", json={"document": few} | sizes).json()
    paths = {".".join(map(str, edit["path"])): edit["value"] for edit in remedy["edits"]}
    assert paths["box.battery.capacity_ah"] == 130
    assert paths["box.sun.0.panels.0.power_w"] == 200
    assert paths["box.vehicle.0.on"] is False
    assert paths["box.mains.0.limit_a"] == 20


def test_plans_are_compared_by_number(client: TestClient, few: dict[str, Any]) -> None:
    first, second = (client.post("/api/plans", json=few).json()["id"] for _ in range(2))
    beside = client.get("/api/compare", params={"plan": [first, second]}).json()
    assert len(beside["variants"]) == 2
    assert client.get("/api/compare", params={"plan": [first]}).status_code == 422
    assert client.get("/api/compare", params={"plan": [first, 999]}).status_code == 404


def test_places_and_coordinates(client: TestClient) -> None:
    assert client.get("/api/places", params={"q": "nairobi"}).json()[0]["country"] == "Kenya"
    spot = client.get("/api/places/at", params={"latitude": -1.3, "longitude": 36.8}).json()
    assert spot["timezone"] == "Africa/Nairobi"
    off = client.get("/api/places/at", params={"latitude": 91, "longitude": 0})
    assert off.status_code == 422


def test_a_weather_file_is_sent_as_it_is(client: TestClient) -> None:
    data = (YEARS / "12839.tm2").read_bytes()
    good = client.post("/api/weather", content=data, params={"name": "12839.tm2"})
    assert good.json()["climate"]["source"] == "12839.tm2: Miami"
    bad = client.post("/api/weather", content=b"x", params={"name": "x"})
    assert bad.status_code == 422
    assert "EPW" in bad.json()["complaints"][0]["limit"]


def test_without_a_forecast_service_that_is_said(client: TestClient, few: dict[str, Any]) -> None:
    plan = client.post("/api/plans", json=few).json()["id"]
    assert client.get(f"/api/plans/{plan}/forecast").json()["state"] == "none"
    answer = client.post(f"/api/plans/{plan}/forecast").json()
    assert "ODDKETTLE_FORECAST_URL" in answer["text"]
    assert client.get("/api/plans/999/forecast").status_code == 404


def test_a_preview_comes_with_the_odds_that_were_asked_for(
    client: TestClient, few: dict[str, Any]
) -> None:
    def ask(**query: object) -> Any:
        return client.post("/api/preview", json=few, params={"advice": False} | query).json()

    assert ask()["odds"] is None
    assert ask(odds="quick")["odds"]["scenarios"] == 40
    full = ask(odds="full", sky="worst")
    assert (full["odds"]["scenarios"], full["sky"]) == (20, "worst")
    assert full["verdict"]["lowest_percent"] < ask(sky="best")["verdict"]["lowest_percent"]
    assert client.post("/api/preview", json=few, params={"sky": "sunny"}).status_code == 422
