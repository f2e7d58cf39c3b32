"""One moment of a battery monitor."""

from __future__ import annotations

from typing import NamedTuple


class Sample(NamedTuple):
    """One moment: UTC milliseconds, the monitor's own number for it, and what it showed.

    `amps` into the battery is positive; `percent` 0..100; counters [Ah] since the monitor's reset.
    """

    at_ms: int
    seq: int | None = None
    volts: float | None = None
    amps: float | None = None
    percent: float | None = None
    ah_in: float | None = None
    ah_out: float | None = None
