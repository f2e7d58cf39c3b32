"""The one place that asks what time it is."""

from __future__ import annotations

from datetime import UTC, date, datetime


def now_utc() -> str:
    """Now, ISO 8601 in UTC to the second."""
    return datetime.now(UTC).isoformat(timespec="seconds")


def today() -> date:
    """Today, on this machine's own clock."""
    return datetime.now().astimezone().date()
