"""The API over its real app and a real database."""

from __future__ import annotations

import copy
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from oddkettle.api.app import create_app
from oddkettle.usecases.service.demo import fill_demo
from tests.conftest import EXAMPLES


@pytest.fixture
def client(store: Path) -> TestClient:
    fill_demo(EXAMPLES, "moth-survey")
    return TestClient(create_app())


def opened(client: TestClient) -> dict[str, Any]:
    return client.get("/api/plans/1").json()


def test_demo_data_is_put_in_once(client: TestClient) -> None:
    assert fill_demo(EXAMPLES, "moth-survey") is False
    assert client.get("/api/plans").json()[0]["name"].startswith("Moth")


def test_a_preview_runs_without_saving(client: TestClient) -> None:
    plan = opened(client)
    spoiled = copy.deepcopy(plan["document"])
    spoiled["box"]["sun"] = []
    run = client.post("/api/preview", json=spoiled).json()
    assert all(source["kind"] != "sun" for source in run["total"]["sources"])
    assert opened(client)["revision"] == plan["revision"]


def test_the_result_document_closes_by_day_and_in_all(client: TestClient) -> None:
    run = client.post("/api/preview", json=opened(client)["document"]).json()
    for period in [*run["days"], run["total"]]:
        used, stored = period["used"]["ah"], period["stored"]["ah"]
        lost = period["lost"]["coulombic"]["ah"] + period["lost"]["leaked"]["ah"]
        assert period["taken"]["ah"] == pytest.approx(used + stored + lost, abs=1e-6)
        lost_wh = period["lost"]
        heat = lost_wh["resistance_wh"] + lost_wh["lag_wh"] + lost_wh["coulombic"]["wh"]
        heat += lost_wh["leaked"]["wh"]
        whole = period["used"]["wh"] + period["stored"]["wh"] + heat
        assert period["taken"]["wh"] == pytest.approx(whole, abs=1e-6)
    assert run["total"]["used"]["ah"] == pytest.approx(sum(d["used"]["ah"] for d in run["days"]))
    steps = sum(day["steps"] for day in run["days"])
    assert len(run["series"]["level_percent"]) == steps + 1


def test_the_verdict_says_what_the_series_show(client: TestClient) -> None:
    run = client.post("/api/preview", json=opened(client)["document"]).json()
    lowest = min(run["series"]["level_percent"])
    assert run["verdict"]["lowest_percent"] == pytest.approx(lowest, abs=0.01)
    assert run["verdict"]["lasts"] is (lowest >= 20)
    assert f"{lowest:.0f} %" in run["verdict"]["detail"]


def test_the_drive_that_is_proposed_really_mends_the_plan(client: TestClient) -> None:
    document = opened(client)["document"]
    mend = client.post("/api/preview", json=document).json()["verdict"]["mend"]
    drive = {"id": "mend", "kind": "drive", "day": mend["day"]}
    blocks = document["trip"]["blocks"]

    def lasts(end: str) -> bool:
        tried = [*blocks, drive | {"start": mend["start"], "end": end}]
        body = document | {"trip": document["trip"] | {"blocks": tried}}
        return client.post("/api/preview", json=body).json()["verdict"]["lasts"]

    hours, minutes = map(int, mend["end"].split(":"))
    shorter = 60 * hours + minutes - 5
    assert lasts(mend["end"])
    assert not lasts(f"{shorter // 60:02d}:{shorter % 60:02d}")


def test_saving_undoing_and_redoing(client: TestClient) -> None:
    plan = opened(client)
    document = plan["document"] | {"name": "Renamed"}
    body = {"base_revision": plan["revision"], "did": "renamed", "document": document}
    saved = client.put("/api/plans/1", json=body).json()
    assert saved["can_undo"]
    assert client.post("/api/plans/1/undo").json()["document"] == plan["document"]
    assert client.post("/api/plans/1/redo").json()["document"]["name"] == "Renamed"
    assert [r["did"] for r in client.get("/api/plans/1/revisions").json()] == [
        "renamed",
        "imported",
    ]


def test_a_stale_save_is_a_problem_that_says_what_changed(client: TestClient) -> None:
    plan = opened(client)
    body = {"base_revision": plan["revision"], "did": "first", "document": plan["document"]}
    client.put("/api/plans/1", json=body | {"document": plan["document"] | {"name": "First"}})
    late = client.put("/api/plans/1", json=body | {"document": plan["document"] | {"name": "L"}})
    assert late.status_code == 409
    assert late.headers["content-type"] == "application/problem+json"
    assert "Nothing was overwritten" in late.json()["detail"]
    assert late.json()["current_revision"] == opened(client)["revision"]
    assert opened(client)["document"]["name"] == "First"


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"capacity_ah": 10_000}, "box.battery.capacity_ah"),
        ({"chemistry": "unobtainium"}, "box.battery.chemistry"),
        ({"capacity_ah": "x"}, "box.battery.capacity_ah"),
    ],
)
def test_a_plan_that_cannot_be_is_a_problem_and_changes_nothing(
    client: TestClient, change: dict[str, Any], where: str
) -> None:
    plan = opened(client)
    spoiled = copy.deepcopy(plan["document"])
    spoiled["box"]["battery"] |= change
    body = {"base_revision": plan["revision"], "did": "bad", "document": spoiled}
    for answer in (
        client.put("/api/plans/1", json=body),
        client.post("/api/preview", json=spoiled),
    ):
        assert answer.status_code == 422
        assert answer.headers["content-type"] == "application/problem+json"
        (complaint,) = answer.json()["complaints"]
        assert complaint["where"] == where
        assert complaint["value"]
        assert complaint["limit"]
        assert complaint["remedy"]
    assert opened(client) == plan


def test_a_plan_goes_out_as_a_file_and_comes_back_the_same(client: TestClient) -> None:
    file = client.get("/api/plans/1/file")
    assert 'filename="moth-survey-nine-nights.json"' in file.headers["content-disposition"]
    back = client.post("/api/plans/import", content=file.content)
    assert back.status_code == 201
    assert back.json()["document"] == opened(client)["document"]


def test_a_truncated_file_is_a_problem_and_adds_no_plan(client: TestClient) -> None:
    before = client.get("/api/plans").json()
    data = client.get("/api/plans/1/file").content[:700]
    answer = client.post("/api/plans/import", content=data)
    assert answer.status_code == 422
    assert "breaks off" in answer.json()["detail"]
    assert client.get("/api/plans").json() == before


def test_what_is_not_there_is_a_problem_too(client: TestClient) -> None:
    for path in ("/api/plans/99", "/api/nothing"):
        answer = client.get(path)
        assert answer.status_code == 404
        assert answer.headers["content-type"] == "application/problem+json"


def reading(**change: object) -> dict[str, Any]:
    usual = {"at": "2026-06-08T21:30:00", "kind": "monitor_percent", "value": 64, "note": "dusk"}
    return usual | change


def test_a_reading_is_kept_with_what_it_is_worth(client: TestClient) -> None:
    made = client.post("/api/plans/1/log", json=reading()).json()
    assert made["at_utc"] == "2026-06-08T20:30:00+00:00"
    assert (made["low_percent"], made["high_percent"]) == (61, 67)
    assert made["planned_percent"] is not None
    volts = client.post("/api/plans/1/log", json=reading(kind="rested_voltage", value=13.18))
    assert volts.json()["high_percent"] - volts.json()["low_percent"] > 20
    assert client.delete(f"/api/plans/1/log/{made['id']}").status_code == 204
    left = [entry["id"] for entry in client.get("/api/plans/1/log").json()]
    assert made["id"] not in left
    assert client.post(f"/api/plans/1/log/{made['id']}/restore").status_code == 204


@pytest.mark.parametrize(
    ("change", "text"),
    [
        ({"value": 140}, "0 to 100 %"),
        ({"kind": "rested_voltage", "value": 64}, "5 to 32 V"),
        ({"at": "2027-01-01T10:00:00"}, "Sat 6 Jun to Sun 14 Jun 2026"),
        ({"kind": "hunch"}, "monitor_percent"),
    ],
)
def test_a_reading_that_cannot_be_is_refused(
    client: TestClient, change: dict[str, Any], text: str
) -> None:
    before = client.get("/api/plans/1/log").json()
    answer = client.post("/api/plans/1/log", json=reading(**change))
    assert answer.status_code == 422
    assert text in str(answer.json()["complaints"])
    assert client.get("/api/plans/1/log").json() == before
