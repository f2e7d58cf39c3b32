"""Giving memory back to the system when nothing is going on."""

from __future__ import annotations

import contextlib
import ctypes
import gc
import os
from pathlib import Path

from oddkettle.core.values.cache import CACHE

PLENTY_MB = 380.0
KEPT_BYTES = 24 * 2**20
"""What stays of the results when there is nobody to ask again: the last plan's few [judgement]."""


FEW_ARENAS = (-8, 2)
"""glibc's M_ARENA_MAX. Every thread would have a heap of its own, and keep what it once needed."""


def share_heaps() -> None:
    """Let all threads allocate from two heaps; called before there are many."""
    with contextlib.suppress(AttributeError, OSError):
        ctypes.CDLL(None).mallopt(*FEW_ARENAS)


def give_back() -> None:
    """Return to the system what is no longer needed; only some libraries can."""
    with contextlib.suppress(AttributeError, OSError):
        ctypes.CDLL(None).malloc_trim(0)


def resident_mb() -> float | None:
    """What the process holds in memory [MB]; None where the system does not say."""
    try:
        pages = int(Path("/proc/self/statm").read_text().split()[1])
    except (OSError, ValueError, IndexError):
        return None
    return pages * os.sysconf("SC_PAGE_SIZE") / 1e6


def tidy() -> None:
    """Let go of old results where memory is much."""
    give_back()
    held = resident_mb()
    if held is not None and held > PLENTY_MB:
        CACHE.shrink(KEPT_BYTES)
        gc.collect()
        give_back()
