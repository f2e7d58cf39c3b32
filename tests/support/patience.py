"""How long a test waits for what is sure to come: one figure, for a shared machine may stand still.

A sound program needs a fraction of it; only a test that fails waits so long. Where a test is about
hanging up or giving up, it says its own time.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable

PATIENCE_S = float(os.environ.get("ODDKETTLE_PATIENCE_S", "180"))


def until(happened: Callable[[], object], what: str = "what was waited for") -> None:
    """Look again and again until it has happened.

    Raises:
        TimeoutError: it did not happen within the patience of all tests.

    """
    end = time.monotonic() + PATIENCE_S
    while not happened():
        if time.monotonic() > end:
            raise TimeoutError(f"{what} did not happen within {PATIENCE_S:.0f} s")
        time.sleep(0.02)
