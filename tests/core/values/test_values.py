"""Records of the core are values: caches tell one from another by them; nobody writes to one."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator
from dataclasses import FrozenInstanceError, fields, is_dataclass

import pytest

from oddkettle import core

WRITTEN_TO = {"Trail", "Sheet"}
"""What grows while it is used: a trail of stops, a drawing."""


def records() -> Iterator[type]:
    for found in pkgutil.walk_packages(core.__path__, f"{core.__name__}."):
        module = importlib.import_module(found.name)
        for thing in vars(module).values():
            if isinstance(thing, type) and thing.__module__ == found.name and is_dataclass(thing):
                yield thing


@pytest.mark.parametrize("record", list(records()), ids=lambda record: record.__qualname__)
def test_a_record_is_never_written_to(record: type) -> None:
    if record.__name__ in WRITTEN_TO:
        return
    one = object.__new__(record)
    for field in fields(record):
        with pytest.raises(FrozenInstanceError):
            setattr(one, field.name, None)
