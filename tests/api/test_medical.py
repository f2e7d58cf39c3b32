"""What somebody's health hangs on is never advised to be cut, shortened, moved or warmed."""

from __future__ import annotations

import copy
import json
import re
from collections.abc import Iterator
from typing import Any

import pypdfium2
import pytest
from fastapi.testclient import TestClient

from oddkettle.core.loads.essential import may_be_cut, sounds_medical
from oddkettle.plan import Plan
from oddkettle.store.file.database import open_database
from oddkettle.usecases.build.prints import NAMES as PRINTS
from oddkettle.usecases.notifications.alarms.alarms import look
from tests.api.described import APP, SPEC
from tests.api.test_every_kind import OF_A_DOCUMENT, needed
from tests.conftest import NOW, example
from tests.support.tiers import NIGHTLY, SLOW, TIER

NAME = "Night machine Osk"
"""Says nothing by itself: only its mark, or its priority, tells."""
REDUCED = re.compile(
    r"switch(?:ed)? (?:\w+ ){0,3}off|turn(?:ed)? off|stays? off|half as long|half the hours|"
    r"doing without|\bwithout\b|leave (?:it|them) at home|stay(?:ed|s)? at home|warmer|"
    r"goes first|at the best hours|fewer hours|is off|unplug",
    re.IGNORECASE,
)
ALLOWED = re.compile(
    r"goes without|without a second source|appliances go without|without naming|"
    r"without it the|with no charging|without any source|without mains|never goes",
    re.IGNORECASE,
)
"""What says that it is cut, as a danger; nobody is advised to."""
KINDS: dict[str, dict[str, Any]] = {
    "of the shelf": {"name": f"{NAME}, breathing machine", "medical": True, "priority": "must"},
    "typed and marked": {"name": NAME, "medical": True, "priority": "wanted"},
    "marked, to go first": {"name": NAME, "medical": True, "priority": "first"},
    "typed, told by its name": {"name": f"{NAME} CPAP"},
    "said never to go": {"name": NAME, "priority": "must"},
    "a cool box for medicine": {
        "name": f"{NAME}, medicine",
        "medical": True,
        "pattern": {"type": "fridge", "set_c": 4, "reference_c": 25},
    },
    "behind the inverter, noisy": {
        "name": NAME,
        "medical": True,
        "supply": "inverter",
        "noisy": True,
        "standby_w": 3,
    },
}


def with_machine(kind: dict[str, Any]) -> dict[str, Any]:
    """The demo's plan with a machine that takes more than anything else, and fails at night."""
    document: dict[str, Any] = json.loads(example("moth-survey").model_dump_json())
    machine = {
        "id": "machine",
        "power_w": 45,
        "supply": "12v",
        "hours": [{"start": "22:00", "end": "06:00"}],
        **kind,
    }
    document["use"]["appliances"].insert(0, machine)
    document["use"]["shedding"] = {"first_percent": 60, "wanted_percent": 40}
    document["use"]["quiet_hours"] = [{"start": "21:00", "end": "23:30"}]
    document["assumptions"]["scenarios"] = 20
    return document


def sentences(found: Any) -> Iterator[str]:
    """Every text of an answer."""
    if isinstance(found, str):
        yield found
    elif isinstance(found, dict):
        yield from (text for value in found.values() for text in sentences(value))
    elif isinstance(found, list):
        yield from (text for value in found for text in sentences(value))


def told_to_cut(text: str) -> list[str]:
    """The sentences of a text that name the machine beside a word of reducing."""
    pieces = re.split(r"(?<=[.!?;])\s+|\n", text)
    return [
        one for one in pieces if NAME in one and REDUCED.search(one) and not ALLOWED.search(one)
    ]


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    db = open_database(tmp_path_factory.mktemp("store") / "box.sqlite3", NOW)
    yield TestClient(APP)
    db.close()


BY_DAY = ("typed and marked",)


@SLOW
@pytest.mark.parametrize(
    "kind", [pytest.param(kind, marks=[] if kind in BY_DAY else [NIGHTLY]) for kind in KINDS]
)
def test_no_answer_alarm_print_or_file_tells_to_cut_it(client: TestClient, kind: str) -> None:
    document = with_machine(KINDS[kind])
    said: dict[str, str] = {}
    for path in OF_A_DOCUMENT:
        if not path.endswith("improve/sizes"):
            said[path] = client.post(path, json=document, params=needed(path)).text
    weighed = client.post("/api/improve/mend", json={"document": document, "asked": {}})
    said["/api/improve/mend"] = weighed.text
    plan = client.post("/api/plans", json=document).json()["id"]
    entry = {"kind": "monitor_percent", "at": "2026-06-09T22:00:00", "value": 24}
    assert client.post(f"/api/plans/{plan}/log", json=entry).status_code == 201
    for path, item in SPEC["paths"].items():
        of_plan = path.startswith("/api/plans/{plan_id}/") and path.count("{") == 1
        if of_plan and "get" in item and not path.endswith(("live", "archive")):
            said[path] = client.get(path.replace("{plan_id}", str(plan))).text
    said["alarms"] = "\n".join(f"{one.text} {one.remedy}" for one in look(plan))
    assert said["alarms"]
    for name in PRINTS if TIER == "nightly" else ("booklet.pdf", "schematic.svg", "parts.csv"):
        data = client.get(f"/api/plans/{plan}/print/{name}").content
        if name.endswith("pdf"):
            pages = pypdfium2.PdfDocument(data)
            said[name] = "\n".join(page.get_textpage().get_text_range() for page in pages)
        else:
            said[name] = data.decode()
    found = {}
    for where, text in said.items():
        lines = text.splitlines() if where.startswith("/api") else [text]
        for line in lines:
            try:
                texts = list(sentences(json.loads(line)))
            except ValueError:
                texts = [line]
            bad = [one for each in texts for one in told_to_cut(each)]
            if bad:
                found[where] = bad
    assert found == {}


def test_the_words_are_found_where_somebody_would_write_them() -> None:
    """The net itself: what the alarms said before is caught."""
    assert told_to_cut(f"Switch off {NAME}, which takes 213 Ah until then, or charge it before.")
    assert told_to_cut(f"{NAME}: half as long")
    assert told_to_cut(f"Without {NAME}")
    assert told_to_cut(f"{NAME} set to 6 °C, 2 K warmer")
    assert not told_to_cut(f"{NAME} must run, and goes without 20 Wh.")


@pytest.mark.parametrize("kind", KINDS)
def test_it_is_asked_in_one_place_and_answered_no(kind: str) -> None:
    plan = Plan.model_validate(with_machine(KINDS[kind]))
    machine, *others = plan.use.appliances
    assert not may_be_cut(machine)
    assert all(may_be_cut(one) for one in others if one.priority != "must")


def test_a_plan_of_before_holds_what_is_medical_as_what_must_run() -> None:
    """Medical means must: whatever an old document, or a page that only sets the mark, says."""
    old = with_machine({"name": NAME, "medical": True, "priority": "first"})
    plan = Plan.model_validate(old)
    assert plan.use.appliances[0].priority == "must"
    again = Plan.model_validate_json(plan.model_dump_json())
    assert again == plan
    unmarked = copy.deepcopy(old)
    unmarked["use"]["appliances"][0]["medical"] = False
    assert Plan.model_validate(unmarked).use.appliances[0].priority == "first"


@pytest.mark.parametrize(
    ("name", "medical"),
    [
        ("CPAP", True),
        ("Oxygen concentrator", True),
        ("Insulin fridge", True),
        ("Cool box", False),
        ("Laptop", False),
        ("Breathing machine", True),
        ("Vaccine box", True),
        ("Bread maker", False),
    ],
)
def test_a_name_may_tell_that_health_hangs_on_it(name: str, medical: bool) -> None:
    assert sounds_medical(name) == medical
