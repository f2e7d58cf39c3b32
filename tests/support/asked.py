"""Running a coroutine from a test that is none."""

from __future__ import annotations

import asyncio
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

T = TypeVar("T")


def run_async(work: Coroutine[Any, Any, T]) -> T:
    """Run it in a thread of its own: a browser's driver may hold this thread's event loop."""
    with ThreadPoolExecutor(1) as pool:
        return pool.submit(asyncio.run, work).result()
