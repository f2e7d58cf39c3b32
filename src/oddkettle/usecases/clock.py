"""The one place that asks what time it is."""

from __future__ import annotations

from datetime import UTC, datetime


def now_utc() -> str:
    """Now, ISO 8601 in UTC to the second."""
    return datetime.now(UTC).isoformat(timespec="seconds")
