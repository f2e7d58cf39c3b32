"""Whatever is sent, the API answers with a result or a problem, never by breaking."""

from __future__ import annotations

import copy
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from oddkettle.api.app import create_app
from tests.conftest import document_of
from tests.support.http import Response
from tests.support.tiers import examples

SAMPLE = document_of("moth-survey")
CLIENT = TestClient(create_app(), raise_server_exceptions=False)
junk = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-(10**12), 10**12),
    st.floats(-1e9, 1e9),
    st.text(max_size=12),
    st.sampled_from(["00:00", "24:00", "07:30", "lifepo4", "agm", "usual", "2026-02-30", "UTC"]),
    st.just([]),
    st.just({}),
)


def paths(value: Any, here: tuple[str | int, ...] = ()) -> list[tuple[str | int, ...]]:
    """Every place in a document."""
    inside: list[tuple[str | int, ...]] = []
    if isinstance(value, dict):
        entries = list(value.items())
    else:
        entries = list(enumerate(value)) if isinstance(value, list) else []
    for key, child in entries:
        inside += [(*here, key), *paths(child, (*here, key))]
    return inside


Changes = list[tuple[tuple[str | int, ...], Any]]


def spoiled(document: dict[str, Any], changes: Changes) -> dict[str, Any]:
    """A copy with something else at these places; a place that is gone is passed over."""
    copied = copy.deepcopy(document)
    for place, value in changes:
        here: Any = copied
        try:
            for part in place[:-1]:
                here = here[part]
            here[place[-1]] = copy.deepcopy(value)
        except (KeyError, IndexError, TypeError):
            continue
    return copied


def answered(answer: Response, within: str) -> bool:
    """Whether it was a result, which has something `within`; else each complaint is whole."""
    assert answer.status_code in (200, 422), answer.text
    if answer.status_code == 200:
        assert answer.json()[within]
        return True
    complaints = answer.json()["complaints"]
    assert complaints
    assert all(c["text"] and c["limit"] and c["remedy"] for c in complaints)
    return False


PLACES = paths(SAMPLE)


@settings(
    max_examples=examples(150),
    deadline=None,
    derandomize=True,
    suppress_health_check=[HealthCheck.too_slow],
)
@given(st.lists(st.tuples(st.sampled_from(PLACES), junk), min_size=1, max_size=3))
def test_any_spoiled_plan_is_answered(changes: Changes) -> None:
    answered(CLIENT.post("/api/preview?advice=false", json=spoiled(SAMPLE, changes)), "days")


def test_an_unspoiled_plan_gets_a_result() -> None:
    assert answered(CLIENT.post("/api/preview?advice=false", json=SAMPLE), "days")


@pytest.mark.parametrize(
    ("latitude", "start", "zone"),
    [
        (78.0, "2026-12-20", "Arctic/Longyearbyen"),
        (78.0, "2026-06-20", "Arctic/Longyearbyen"),
        (-90.0, "2026-06-20", "UTC"),
        (0.0, "2028-02-28", "Africa/Nairobi"),
        (-33.0, "2026-10-03", "Australia/Lord_Howe"),
        (-17.0, "2026-06-20", "Pacific/Apia"),
        (35.0, "2026-04-23", "Africa/Cairo"),
    ],
)
def test_odd_places_and_dates_are_answered(latitude: float, start: str, zone: str) -> None:
    """Polar night, midnight sun, a pole, a leap day, half-hour and midnight clock changes."""
    document = copy.deepcopy(SAMPLE)
    document["trip"] |= {"start": start, "blocks": []}
    document["trip"]["site"] |= {"latitude": latitude, "timezone": zone}
    answer = CLIENT.post("/api/preview", json=document)
    assert answer.status_code == 200, answer.text
    days = answer.json()["days"]
    assert len(days) == 9
    assert sum(day["minutes"] for day in days) % 30 == 0
