"""More fields than any document has are refused before anything is built of them."""

from __future__ import annotations

import json

import pytest

from oddkettle.formats.plan_json import parse_plan
from oddkettle.formats.untrusted.json_bounds import (
    MAX_IN_ONE,
    MAX_NAMES,
    TooManyFields,
    count_fields,
)
from oddkettle.plan.plan_errors import PlanRefused
from tests.conftest import EXAMPLES


def test_what_a_plan_may_have_passes() -> None:
    for path in sorted(EXAMPLES.glob("*.json")):
        count_fields(path.read_bytes())
    count_fields(json.dumps(dict.fromkeys(map(str, range(MAX_IN_ONE)))).encode())
    one = dict.fromkeys(map(str, range(100)))
    count_fields(json.dumps([one] * (MAX_NAMES // 100)).encode())


def test_one_more_in_an_object_or_in_all_is_refused() -> None:
    wide = dict.fromkeys(map(str, range(MAX_IN_ONE + 1)))
    with pytest.raises(TooManyFields, match="201 fields; at most 200"):
        count_fields(json.dumps(wide).encode())
    one = dict.fromkeys(map(str, range(100)))
    with pytest.raises(TooManyFields, match="more than 40,000"):
        count_fields(json.dumps([one] * (MAX_NAMES // 100 + 1)).encode())
    with pytest.raises(PlanRefused, match="201 fields"):
        parse_plan(json.dumps(wide).encode())


def test_what_is_no_json_is_left_to_its_reader() -> None:
    for data in (b"", b"{", b"\xff", b"[" * 100_000):
        count_fields(data)
