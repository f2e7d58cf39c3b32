"""The compiled step's functions in plain Python, one at a time, and records to try them on."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest

from oddkettle.core.kernel import arithmetic, bank_step, bus, loop, source_step

MODULES = (arithmetic, bank_step, source_step, bus, loop)


@pytest.fixture(autouse=True)
def plain(monkeypatch: pytest.MonkeyPatch) -> None:
    """Python in place of machine code, in all parts at once."""
    for module in MODULES:
        for name, thing in vars(module).items():
            if hasattr(thing, "py_func"):
                monkeypatch.setattr(module, name, thing.py_func)


def part(module: Any, name: str) -> Callable[..., Any]:
    found: Callable[..., Any] = getattr(module, name)
    return found


def one(kind: np.dtype[Any], **fields: float) -> Any:
    return several(kind, fields)[0]


def several(kind: np.dtype[Any], *rows: dict[str, float]) -> Any:
    table = np.zeros(len(rows), kind)
    for row, fields in zip(table, rows, strict=True):
        for name, value in fields.items():
            row[name] = value
    return table
