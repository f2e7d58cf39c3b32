"""Foreign files are read in another process: what they do to it ends with it."""

from __future__ import annotations

import os
import threading
import time

import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.values.cancellation import GivenUp, giving_up_when
from oddkettle.formats.untrusted.apart import ReaderEnded, read_apart
from oddkettle.formats.weather_file import read_weather
from tests.support.patience import PATIENCE_S


def twice(given: bytes) -> bytes:
    return given * 2


def refuses(text: str) -> None:
    raise ValueError(text)


def crashes() -> None:
    os.abort()


def takes_all() -> int:
    return len(bytearray(8_000_000_000))


def never_ends() -> None:
    time.sleep(PATIENCE_S)


class Odd(Exception):
    """One that cannot be put together again from its text alone."""

    def __init__(self, one: int, two: int) -> None:
        super().__init__(f"{one} and {two}")


def raises_what_cannot_be_sent() -> None:
    raise Odd(1, 2)


def test_what_the_reader_finds_comes_back_and_so_does_what_it_refuses() -> None:
    assert read_apart(twice, b"ab" * 500_000) == b"ab" * 1_000_000
    with pytest.raises(ValueError, match="no such file"):
        read_apart(refuses, "no such file")
    with pytest.raises(ReaderEnded, match="1 and 2"):
        read_apart(raises_what_cannot_be_sent)


def test_a_refusal_of_a_weather_file_keeps_its_value_limit_and_remedy() -> None:
    with pytest.raises(PlanError) as there:
        read_apart(read_weather, b"nothing of weather", "x.epw")
    with pytest.raises(PlanError) as here:
        read_weather(b"nothing of weather", "x.epw")
    fault, other = there.value, here.value
    assert (str(fault), fault.where, fault.value) == (str(other), other.where, other.value)
    assert (fault.limit, fault.remedy) == (other.limit, other.remedy)


def test_a_crash_too_much_memory_and_too_long_are_told_in_words() -> None:
    with pytest.raises(ReaderEnded, match="broke down"):
        read_apart(crashes)
    with pytest.raises(ReaderEnded, match="too much memory"):
        read_apart(takes_all)
    with pytest.raises(ReaderEnded, match="not read within 2 s"):
        read_apart(never_ends, most_s=2)


def test_it_ends_when_nobody_waits_any_more() -> None:
    gone = threading.Event()
    threading.Timer(0.3, gone.set).start()
    with giving_up_when(gone.is_set), pytest.raises(GivenUp):
        read_apart(never_ends)
