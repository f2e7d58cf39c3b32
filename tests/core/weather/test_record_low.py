"""How cold it may get, against the records that are commonly given."""

from __future__ import annotations

import pytest

from oddkettle.core.weather.record_low import record_low_c

# Town and month, mean lowest of a day there, lowest on record [C]; as commonly given, rounded.
RECORDS = {
    "London, January": (3, -13),
    "Berlin, January": (-2, -23),
    "Oslo, January": (-7, -27),
    "Madrid, January": (3, -15),
    "Rome, January": (3, -11),
    "New York, January": (-3, -21),
    "Denver, January": (-8, -32),
    "Miami, January": (16, -2),
    "Singapore, January": (24, 19),
    "London, July": (14, 6),
    "Berlin, July": (14, 5),
    "New York, July": (20, 11),
    "Denver, July": (15, 6),
}


@pytest.mark.parametrize(("usual", "record"), RECORDS.values(), ids=RECORDS)
def test_it_lies_near_what_was_ever_read(usual: float, record: float) -> None:
    """Within eight kelvins of it; a volt of a 12 V panel is twelve."""
    assert abs(record_low_c(usual) - record) <= 8.0


def test_a_warmer_season_has_no_colder_record() -> None:
    found = [record_low_c(float(usual)) for usual in range(-40, 35)]
    assert found == sorted(found)
