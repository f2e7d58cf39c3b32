"""Readings from the field: one file a kind (or a family of kinds), with its errors and its aim.

Every module in here that has `KINDS` adds them to the registry.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from oddkettle.core.estimation.readings.log_kind import LogKind
from oddkettle.core.estimation.readings.reading import Aim, Reading, ReadingKind, Taken

READING_KINDS: dict[str, ReadingKind] = {
    kind.key: kind
    for module in iter_modules(__path__)
    for kind in getattr(import_module(f"{__name__}.{module.name}"), "KINDS", ())
}
"""By key."""
LOG_KINDS_OF_READINGS: tuple[LogKind, ...] = tuple(
    kind
    for module in iter_modules(__path__)
    for kind in getattr(import_module(f"{__name__}.{module.name}"), "LOG_KINDS", ())
)
"""Entries of the log that stand in the module of their reading."""

__all__ = ["READING_KINDS", "Aim", "Reading", "ReadingKind", "Taken"]
