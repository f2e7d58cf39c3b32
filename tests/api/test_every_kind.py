"""Every kind in every registry, asked of every endpoint: a half-added kind fails here at once."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.plan.box import SOURCE_GROUPS
from oddkettle.plan.use import Pattern
from oddkettle.store.file.database import open_database
from oddkettle.usecases.field.log.kinds import LOG_KINDS, LogKind
from oddkettle.usecases.plans.part_templates import FRESH, FreshSource
from tests.api.described import APP, SPEC
from tests.conftest import NOW, document_of
from tests.support.tiers import SLOW, TIER

NOT_THE_PLAN_ALONE = (
    "/api/weather",
    "/api/measure",
    "/api/improve/seek",
    "/api/improve/sizes/edits",
    "/api/sentence/edit",
)
"""What wants more than a plan, and has tests of its own."""
OF_A_DOCUMENT = [
    path
    for path, item in SPEC["paths"].items()
    if "Plan"
    in json.dumps(
        item.get("post", {}).get("requestBody", {}).get("content", {}).get("application/json", {})
    ).replace("Plan-Input", "Plan")
    and "{plan_id}" not in path
    and path not in NOT_THE_PLAN_ALONE
]
FIGURES = (
    "ledger",
    "taken",
    "used",
    "net",
    "stored",
    "lost",
    "use",
    "peak",
    "usable",
    "charge-limit",
    "mass",
    "ageing",
    "lowest",
    "odds",
    "source:mains",
    "draw:lamp",
)


OF_A_STORED_PLAN = (
    "report",
    "file",
    "track",
    "track/report",
    "print/booklet.pdf",
    "print/schematic.svg",
    "log",
    "ticks",
    "archive",
)


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    db = open_database(tmp_path_factory.mktemp("store") / "box.sqlite3", NOW)
    yield TestClient(APP)
    db.close()


def a_document() -> dict[str, Any]:
    """A small box in the frost: two days, a lamp, a mains charger at a hook-up."""
    document: dict[str, Any] = document_of("winter-caravan")
    document["trip"]["days"] = document["trip"]["days"][:3]
    document["trip"]["blocks"] = [
        {"id": "h", "kind": "hookup", "day": 1, "start": "01:00", "end": "05:00"}
    ]
    document["box"]["battery"] = {"chemistry": "lifepo4", "capacity_ah": 80}
    document["box"] |= {"sun": [], "vehicle": [], "second": None, "heater": None, "order": []}
    document["box"]["mains"] = [{"id": "mains", "name": "Charger", "limit_a": 10}]
    document["use"]["appliances"] = [
        {
            "id": "lamp",
            "name": "Lamp",
            "power_w": 12,
            "supply": "12v",
            "hours": [{"start": "17:00", "end": "23:00"}],
        }
    ]
    document["build"] = {}
    document["assumptions"]["scenarios"] = 20
    return document


HEAVY = ("improve/sizes", "improve/mend", "booklet.pdf", "archive")
"""What takes seconds: by day it is asked of one kind of each registry, by night of all."""


def asked_all(key: str, first: str) -> bool:
    return TIER == "nightly" or key == first


def ask_all(client: TestClient, document: dict[str, Any], *more: str, heavy: bool = True) -> None:
    """Ask everything that can be asked of a plan."""

    def light(path: str) -> bool:
        return heavy or not path.endswith(HEAVY)

    for path in filter(light, OF_A_DOCUMENT):
        answer = client.post(path, json=document, params=needed(path))
        assert answer.status_code in (200, 201), (path, answer.text[:600])
        assert '"complaints"' not in answer.text[-2000:], (path, answer.text[-600:])
    for figure in (*FIGURES, *more):
        answer = client.post("/api/sum", json=document, params={"figure": figure})
        assert answer.status_code == 200, (figure, answer.text[:600])
    made = client.post("/api/plans", json=document).json()["id"]
    for path in filter(light, OF_A_STORED_PLAN):
        answer = client.get(f"/api/plans/{made}/{path}")
        assert answer.status_code == 200, (path, answer.text[:600])


def needed(path: str) -> dict[str, str]:
    return {"/api/instant": {"step": "200"}, "/api/sum": {"figure": "ledger"}}.get(path, {})


@SLOW
@pytest.mark.parametrize("new", FRESH.sources, ids=lambda new: new.text)
def test_every_source_is_whole(client: TestClient, new: FreshSource) -> None:
    """Beside a mains charger, in its own block where it has one, and moved by the minute."""
    document = a_document()
    kind = SOURCE_KINDS[new.group]
    document["box"][new.group] = [
        *document["box"].get(new.group, []),
        {**new.part.model_dump(mode="json"), "id": "new"},
    ]
    if kind.block is not None:
        block = {"id": "b", "kind": kind.block, "day": 2, "start": "09:00", "end": "11:00"}
        document["trip"]["blocks"].append(block)
    heavy = asked_all(new.text, FRESH.sources[0].text)
    ask_all(client, document, "source:new", heavy=heavy)
    report = client.post("/api/preview", json=document, params={"series": "true"}).json()
    told = {source["key"]: source for source in report["total"]["sources"]}["new"]
    assert told["kind"] == new.group
    assert told["offered"]["ah"] > 0
    assert len(report["series"]["taken_a"]["new"]) == len(report["series"]["load_a"])
    assert any(limit["key"] == "new" for limit in report["limits"])
    reference = client.get("/api/reference").json()
    assert any(kind.key in caution["about"] for caution in reference["cautions"])
    if kind.knob is not None:
        goal = {"knob": kind.block, "day": 1, "sure_percent": 90}
        asked = {"document": document, "goal": goal}
        lines = client.post("/api/improve/seek", json=asked).text.strip().splitlines()
        assert json.loads(lines[-1])["unit"] == "min"
        # A box that lasts is told what it could spare: this one is to need something.
        document["box"]["battery"]["capacity_ah"] = 5
        weighed = client.post("/api/improve/weigh", json=document).text
        assert f'"key":"{kind.block}:' in weighed.replace(" ", "")
        changes = [
            line["change"] for line in map(json.loads, weighed.splitlines()) if "change" in line
        ]
        priced = [c["euro"] is not None for c in changes if c["key"].startswith(f"{kind.block}:")]
        assert set(priced) == {kind.knob.euro_h is not None}


def test_the_document_lists_every_kind_of_source() -> None:
    assert list(SOURCE_KINDS) == list(SOURCE_GROUPS)


@SLOW
@pytest.mark.parametrize("key", CHEMISTRIES)
def test_every_chemistry_is_whole(client: TestClient, key: str) -> None:
    document = a_document()
    document["box"]["battery"]["chemistry"] = key
    ask_all(client, document, heavy=asked_all(key, next(iter(CHEMISTRIES))))
    listed = {kind["key"]: kind for kind in client.get("/api/reference").json()["chemistries"]}
    assert listed[key]["text"].endswith(".")
    assert listed[key]["kg_per_kwh"] > 0


@SLOW
@pytest.mark.parametrize("pattern", FRESH.patterns.values(), ids=lambda pattern: pattern.type)
def test_every_pattern_of_load_is_whole(client: TestClient, pattern: Pattern) -> None:
    document = a_document()
    document["use"]["appliances"][0]["pattern"] = pattern.model_dump(mode="json")
    for day in document["trip"]["days"]:
        day |= {"low_c": 15, "high_c": 25}
    heavy = asked_all(pattern.type, next(iter(FRESH.patterns.values())).type)
    ask_all(client, document, "appliance:lamp", heavy=heavy)
    report = client.post("/api/preview", json=document).json()
    assert report["use"]["draws"][0]["a_day"]["wh"] > 0


@pytest.mark.parametrize("kind", LOG_KINDS, ids=lambda kind: kind.key)
def test_every_kind_of_log_entry_is_whole(client: TestClient, kind: LogKind) -> None:
    """Written, said, listed, taken into account, corrected, taken out and put back."""
    document = a_document()
    document["box"]["battery"]["chemistry"] = (kind.chemistries or ("lifepo4",))[0]
    made = client.post("/api/plans", json=document).json()["id"]
    day = document["trip"]["start"]
    entry: dict[str, Any] = {"kind": kind.key, "at": f"{day}T12:00:00"}
    for number in kind.numbers:
        entry[number.key] = 13.0 if number.unit == "V" else number.most / 1000 + 1
    entry |= {"until": f"{day}T13:00:00"} if kind.span else {}
    entry |= {"appliance": "lamp"} if kind.appliance else {}
    entry |= {"sky": "overcast"} if kind.key == "sky" else {}
    answer = client.post(f"/api/plans/{made}/log", json=entry)
    assert answer.status_code == 201, answer.text
    told = answer.json()
    assert told["kind"] == kind.key
    assert told["text"]
    assert "{" not in told["text"]
    assert told["worth"]
    for path in ("log", "track", "track/report", "track/sum", "archive", "export/log.csv"):
        seen = client.get(f"/api/plans/{made}/{path}")
        assert seen.status_code == 200, (path, seen.text[:400])
    again = client.put(f"/api/plans/{made}/log/{told['id']}", json=entry)
    assert again.status_code == 200, again.text
    gone = client.delete(f"/api/plans/{made}/log/{again.json()['id']}")
    assert gone.status_code == 204, gone.text


def test_a_kind_of_entry_that_is_none_is_refused(client: TestClient) -> None:
    made = client.post("/api/plans", json=a_document()).json()["id"]
    entry = {"kind": "guessed", "at": f"{a_document()['trip']['start']}T12:00:00"}
    answer = client.post(f"/api/plans/{made}/log", json=entry)
    assert answer.status_code == 422
    assert "no such kind of entry" in answer.text
