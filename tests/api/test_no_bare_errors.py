"""Whatever is sent, nothing answers with a bare 500: odd bodies, odd numbers, a failing disk."""

from __future__ import annotations

import copy
import json
import random
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from xml.parsers.expat import ParserCreate

import peewee
import pytest
from fastapi.testclient import TestClient

from oddkettle.api.app import create_app
from oddkettle.store import plans as plan_store
from tests.support.tiers import repeats

JSON = {"content-type": "application/json"}
ODD_BODIES = (
    b"",
    b"{",
    b"[]",
    b"null",
    b"NaN",
    b'"x"',
    b"1e999",
    b'{"name": NaN}',
    b'{"name": "\\ud800"}',
    b"\xff\xfe",
    b'{"a":' * 3000,
    b"[" * 5000,
    b'{"name": Infinity}',
)
ODD_VALUES = (
    None,
    -1,
    0,
    1e308,
    "",
    "x" * 10_000,
    "\ud800",
    [],
    {},
    True,
    float("nan"),
    float("-inf"),
    10**400,
    "00:00",
    "24:00",
    "2026-02-30",
    "0001-01-01",
    "9999-12-31",
    1e-320,
)


@pytest.fixture
def client(store: Path) -> TestClient:
    return TestClient(create_app(), raise_server_exceptions=False, base_url="http://localhost")


def leaves(part: Any, way: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    if isinstance(part, dict | list):
        pairs = part.items() if isinstance(part, dict) else enumerate(part)
        for key, value in pairs:
            yield from leaves(value, (*way, key))
    else:
        yield way


@pytest.mark.parametrize("body", ODD_BODIES, ids=lambda body: ascii(body[:12]))
def test_an_odd_body_is_refused_in_words(client: TestClient, body: bytes) -> None:
    for path in ("/api/plans", "/api/plans/import", "/api/preview", "/api/plans/archive"):
        answer = client.post(path, content=body, headers=JSON)
        assert 400 <= answer.status_code < 500, path
        assert answer.json()["detail"]


def test_no_odd_value_of_any_field_is_a_bare_error(
    client: TestClient, document: dict[str, Any]
) -> None:
    luck = random.Random(8)
    fields = list(leaves(document))
    tried = 0
    for _ in range(repeats(40, 150, 3000)):
        spoiled = copy.deepcopy(document)
        *way, last = luck.choice(fields)
        here: Any = spoiled
        for step in way:
            here = here[step]
        here[last] = luck.choice(ODD_VALUES)
        body = json.dumps(spoiled).encode("utf-8", "surrogatepass")
        answer = client.post("/api/preview", content=body, headers=JSON)
        assert answer.status_code < 500, (way, last)
        tried += 1
    assert tried


def test_a_key_that_stands_twice_is_asked_about(
    client: TestClient, document: dict[str, Any]
) -> None:
    body = json.dumps(document).replace('"name":', '"name": "A", "name":', 1)
    answer = client.post("/api/plans/import", content=body.encode())
    assert answer.status_code == 422
    assert "name stands twice" in answer.json()["detail"]


@pytest.mark.parametrize("number", [0, -1, 2**63, 10**30])
def test_numbers_that_no_plan_has_are_not_found(client: TestClient, number: int) -> None:
    assert client.get(f"/api/plans/{number}").status_code == 404


@pytest.mark.parametrize(
    ("said", "status", "means"),
    [
        ("database or disk is full", 507, "The disk is full"),
        ("database is locked", 503, "Another program holds"),
        ("attempt to write a readonly database", 503, "may only be read"),
    ],
)
def test_a_failing_disk_is_told(
    client: TestClient,
    document: dict[str, Any],
    monkeypatch: pytest.MonkeyPatch,
    said: str,
    status: int,
    means: str,
) -> None:
    def fails(*_: object, **__: object) -> None:
        raise peewee.OperationalError(said)

    monkeypatch.setattr(plan_store, "create", fails)
    answer = client.post("/api/plans", json=document)
    assert answer.status_code == status
    assert means in answer.json()["detail"]


def test_a_fault_of_the_program_itself_is_a_problem_like_any_other(
    store: Path, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    """A route that breaks, by whatever exception, and one that passes a number's ends."""
    app = create_app()

    @app.get("/api/broken")
    def broken() -> None:
        raise KeyError("inside")

    @app.get("/api/overflows")
    def overflows() -> None:
        raise OverflowError("date value out of range")

    client = TestClient(app, raise_server_exceptions=False)
    for path, kind in (("/api/broken", "KeyError"), ("/api/overflows", "OverflowError")):
        answer = client.get(path)
        assert answer.status_code == 500
        assert answer.headers["content-type"] == "application/problem+json"
        assert kind in answer.json()["detail"]
        assert f"GET {path} failed" in caplog.text
    assert client.get(f"/api/plans/{2**70}").status_code == 404


ODD_MOMENTS = (
    "0001-01-01T00:00:00Z",
    "0001-01-01T00:00:00+14:00",
    "9999-12-31T23:59:59Z",
    "9999-12-31T23:59:59-14:00",
    "2026-06-08T10:00:00+99:99",
    "2026-06-08T24:00:00Z",
    "-2026-06-08T10:00:00Z",
    "2026-W01-1T10:00",
    "x" * 500,
    "",
)


@pytest.mark.parametrize("moment", ODD_MOMENTS)
def test_a_moment_at_the_calendars_ends_is_refused_wherever_it_is_sent(
    client: TestClient, document: dict[str, Any], moment: str
) -> None:
    plan = f"/api/plans/{client.post('/api/plans', json=document).json()['id']}"
    entry = {"kind": "monitor_percent", "at": moment, "value": 50}
    assert client.post(f"{plan}/log", json=entry).status_code == 422
    sample = client.post(f"{plan}/samples", content=json.dumps({"at": moment, "volts": 13}))
    assert sample.json()["stored"] == 0
    view = {"since": moment, "until": moment}
    assert client.get(f"{plan}/samples", params=view).status_code == 422
    assert client.get(f"{plan}/track", params={"at": moment}).status_code == 422
    table = client.post(f"{plan}/table/preview", content=f"time;volts\n{moment};13\n{moment};13\n")
    assert table.status_code < 500
    spoiled = copy.deepcopy(document)
    spoiled["trip"]["start"] = moment[:10]
    answer = client.post("/api/preview", json=spoiled)
    assert answer.status_code == (422 if moment[:10] != "2026-06-08" else 200)


@pytest.mark.parametrize("name", ["a\ufffe", "]]>", "<svg>", "\u202e", "a\uffff b"])
def test_a_drawing_is_xml_whatever_things_are_called(
    client: TestClient, document: dict[str, Any], name: str
) -> None:
    document["name"] = document["use"]["appliances"][0]["name"] = name
    made = client.post("/api/plans", json=document)
    if made.status_code == 422:
        return
    drawing = client.get(f"/api/plans/{made.json()['id']}/print/schematic.svg").content
    parser = ParserCreate()
    parser.Parse(drawing, True)


def test_a_table_of_prices_that_never_closes_its_quotation_is_refused(
    client: TestClient, document: dict[str, Any]
) -> None:
    table = 'part,euro_each\n"' + "x" * 200_000
    answer = client.post("/api/build/prices", json={"document": document, "table": table})
    assert answer.status_code == 422
    assert "quotation" in answer.text
