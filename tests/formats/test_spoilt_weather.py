"""A weather file that breaks off, or in which bytes were lost, is read or refused in words."""

from __future__ import annotations

import random
from pathlib import Path

import pvlib
import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.formats.weather_file import read_weather
from tests.support.tiers import repeats

FOLDER = Path(pvlib.__file__).parent / "data"
NAMES = ("12839.tm2", "703165TY.csv", "723170TYA.CSV")


def refused_or_read(data: bytes, name: str) -> None:
    """Anything else than a refusal with its limit and remedy goes through and fails the test."""
    try:
        read_weather(data, name)
    except PlanError as error:
        said = (str(error), error.limit, error.remedy)
    else:
        return
    assert all(said)


@pytest.mark.parametrize("name", NAMES)
def test_a_file_that_breaks_off_anywhere(name: str) -> None:
    data = (FOLDER / name).read_bytes()
    rng = random.Random(3)
    cuts = [0, 1, 40, 200, 1000, len(data) // 3, len(data) - 1]
    for cut in [*cuts, *(rng.randrange(len(data)) for _ in range(repeats(0, 3, 60)))]:
        refused_or_read(data[:cut], name)


@pytest.mark.parametrize("name", NAMES)
def test_a_file_with_spoilt_bytes_or_lines(name: str) -> None:
    whole = (FOLDER / name).read_bytes()
    rng = random.Random(5)
    for _ in range(repeats(1, 4, 80)):
        data = bytearray(whole)
        for _ in range(rng.choice([1, 20, 2000])):
            data[rng.randrange(len(data))] = rng.choice(b'\x00\xff,\n"9-eNaN ')
        if rng.random() < 0.5:
            lines = bytes(data).split(b"\n")
            del lines[rng.randrange(len(lines))]
            data = bytearray(b"\n".join(lines))
        refused_or_read(bytes(data), name)
