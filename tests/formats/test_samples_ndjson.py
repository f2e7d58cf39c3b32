"""Lines of a monitor: what is a sample and what is none."""

from __future__ import annotations

import json

import pytest

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.formats.samples_ndjson import BadLine, line_of, parse_line

LINE = {
    "at": "2026-06-08T06:00:10Z",
    "seq": 12,
    "volts": 13.21,
    "amps": -3.2,
    "percent": 64.2,
    "ah_in": 70.1,
    "ah_out": 99.7,
}


def line(**change: object) -> str:
    whole = LINE | change
    return json.dumps({key: value for key, value in whole.items() if value is not None})


def test_a_whole_line_is_read() -> None:
    assert parse_line(line()) == Sample(1780898410000, 12, 13.21, -3.2, 64.2, 70.1, 99.7)


def test_a_sample_comes_back_from_its_line() -> None:
    for sample in (parse_line(line()), Sample(1780898410123, volts=12.5)):
        assert parse_line(line_of(sample)) == sample


def test_any_zone_is_taken_and_milliseconds_kept() -> None:
    here = parse_line(line(at="2026-06-08T07:00:10.250+01:00"))
    assert here.at_ms == parse_line(line()).at_ms + 250


def test_what_is_not_known_is_let_pass() -> None:
    assert parse_line(line(firmware="7b", volts=None)).volts is None


@pytest.mark.parametrize(
    ("change", "text"),
    [
        ({"at": None}, "at"),
        ({"at": "2026-06-08T06:00:10"}, "timezone"),
        ({"at": "yesterday"}, "at"),
        ({"volts": -1}, "volts"),
        ({"volts": "much"}, "volts"),
        ({"percent": 140}, "percent"),
        ({"amps": 1e6}, "amps"),
        ({"ah_in": -4}, "ah_in"),
        ({"seq": -1}, "seq"),
        (dict.fromkeys(("volts", "amps", "percent", "ah_in", "ah_out")), "shows nothing"),
    ],
)
def test_a_line_that_cannot_be_says_what_is_wrong(change: dict, text: str) -> None:
    with pytest.raises(BadLine, match=text):
        parse_line(line(**change))


@pytest.mark.parametrize("text", ["", "{", "[]", "12", '{"at": 1e999}', '{"at":NaN}', "\x00"])
def test_garbage_is_no_sample(text: str) -> None:
    with pytest.raises(BadLine):
        parse_line(text)
