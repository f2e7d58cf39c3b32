"""Habits reach every sentence: what is answered, drawn and printed is in the reader's own."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any

import pypdfium2
import pytest
from fastapi.testclient import TestClient

from oddkettle.api.app import create_app
from oddkettle.core.units.quantity import CLOSE, OPEN
from oddkettle.store.file.database import open_database
from oddkettle.text.habits import COOKIE
from tests.conftest import EXAMPLES, NOW, document_of
from tests.support.tiers import NIGHTLY, SLOW

OTHER = "cable:AWG.clock:12.temperature:F.unit:Wh.weight:lb"
METRIC = re.compile(r"\d °?C\b|\d mm2|\d mm²|\d kg\b|\d K\b|\d Nm\b|\b\d\d:\d\d\b(?! ?[ap]m)")
NO_SENTENCE = re.compile(r"\d\d:\d\d|\d{4}-\d\d-\d\dT.*|120 mm²")
"""A time that is data: a field of the plan, or a moment. And no AWG is as thick as 120 mm²."""


WHEN: dict[str, list[pytest.MarkDecorator]] = {
    "winter-caravan": [],
    "moth-survey": [SLOW],
    "quarry-relay": [SLOW],
}
"""In which tier a sample is asked; the others at night."""


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    db = open_database(tmp_path_factory.mktemp("store") / "box.sqlite3", NOW)
    client = TestClient(create_app())
    client.cookies.set(COOKIE, OTHER)
    yield client
    db.close()


def sentences(found: Any) -> Iterator[str]:
    if isinstance(found, dict):
        for value in found.values():
            yield from sentences(value)
    elif isinstance(found, list):
        for value in found:
            yield from sentences(value)
    elif isinstance(found, str) and not NO_SENTENCE.fullmatch(found):
        yield found


def foreign(found: Any) -> list[str]:
    return [said for said in sentences(found) if METRIC.search(said) or OPEN in said]


@pytest.mark.parametrize(
    "name",
    [
        pytest.param(path.stem, marks=WHEN.get(path.stem, NIGHTLY))
        for path in sorted(EXAMPLES.glob("*.json"))
    ],
)
def test_no_sentence_of_any_sample_keeps_to_other_habits(client: TestClient, name: str) -> None:
    document = document_of(name)
    answers = [client.post("/api/preview", json=document).json()]
    answers.append(client.post("/api/build", json=document).json())
    answers += [
        client.post("/api/sum", params={"figure": figure}, json=document).json()
        for figure in ("ledger", "stored", "lost", "lowest", "usable", "mass", "alone", "odds")
    ]
    weighed = client.post("/api/improve/weigh", json=document)
    answers += [
        json.loads(line)["change"]["text"]
        for line in weighed.text.splitlines()
        if '"change"' in line and "change" in json.loads(line)
    ]
    assert foreign(answers) == []


def test_the_same_question_is_answered_to_each_in_their_own(client: TestClient) -> None:
    document = document_of("winter-caravan")
    ours = client.post("/api/build", json=document)
    with TestClient(create_app()) as usual:
        theirs = usual.post("/api/build", json=document)
    assert "AWG" in ours.text
    assert "mm²" in theirs.text
    assert "AWG" not in theirs.text
    for answer in (ours, theirs):
        assert OPEN not in answer.text
        assert CLOSE not in answer.text
        assert "Cookie" in answer.headers["vary"]


def test_a_complaint_is_in_its_readers_habits(client: TestClient) -> None:
    document = document_of("winter-caravan")
    document["build"]["ambient_c"] = 300
    answer = client.post("/api/preview", json=document)
    assert answer.status_code == 422
    (complaint,) = answer.json()["complaints"]
    assert complaint["limit"] == "at most 176 °F"
    assert int(answer.headers["content-length"]) == len(answer.content)


def test_prints_follow_habits_and_tables_only_in_their_cables(client: TestClient) -> None:
    document = document_of("winter-caravan")
    plan = client.post("/api/plans/import", content=json.dumps(document)).json()["id"]
    booklet = client.get(f"/api/plans/{plan}/print/booklet.pdf").content
    pages = pypdfium2.PdfDocument(booklet)
    words = " ".join(page.get_textpage().get_text_bounded() for page in pages)
    assert " AWG" in words
    assert " lb" in words
    assert "in-lb" in words
    assert not re.search(r"\d mm²|\d kg\b|\d Nm\b", words)
    assert "AWG" in client.get(f"/api/plans/{plan}/print/schematic.svg").text
    table = client.get(f"/api/plans/{plan}/print/parts.csv").text
    # A list that one buys from: square millimetres among AWG would be the wrong cable.
    assert "AWG" in table
    assert "mm²" not in table
    assert " lb" not in table
    assert OPEN not in table


@pytest.mark.parametrize("shape", ["csv", "json"])
def test_a_log_that_goes_out_is_written_as_usual_for_whoever_reads_it(
    client: TestClient, shape: str
) -> None:
    document = document_of("winter-caravan")
    plan = client.post("/api/plans/import", content=json.dumps(document)).json()["id"]
    day = document["trip"]["start"]
    entry = {"at": f"{day}T09:00", "until": f"{day}T15:30", "kind": "hooked_up"}
    told = client.post(f"/api/plans/{plan}/log", json=entry)
    assert told.status_code == 201, told.text
    assert told.json()["text"].endswith("until 3:30 pm")
    text = client.get(f"/api/plans/{plan}/export/log.{shape}").text
    assert "until 15:30" in text
    assert OPEN not in text
    assert "e000" not in text
