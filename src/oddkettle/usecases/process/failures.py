"""What failed in the background: logged with its time, and kept for whoever asks how it stands."""

from __future__ import annotations

import logging
import threading
from dataclasses import dataclass

from oddkettle.usecases.process.clock import now_utc

log = logging.getLogger("oddkettle.background")
_kept: dict[str, Standing] = {}
_lock = threading.Lock()


@dataclass(frozen=True)
class Standing:
    """How a part that runs by itself stands.

    well_at : when it last went well, UTC; failed_at, reason : when and why it last failed
    """

    well_at: str | None = None
    failed_at: str | None = None
    reason: str | None = None

    @property
    def well(self) -> bool:
        """Whether the last time went well."""
        return self.failed_at is None or (self.well_at or "") > self.failed_at


def failed(part: str, error: BaseException) -> None:
    """A part failed: said once for each reason, so that a log is not filled by the minute."""
    reason = f"{type(error).__name__}: {error}"[:300]
    with _lock:
        before = _kept.get(part, Standing())
        _kept[part] = Standing(before.well_at, now_utc(), reason)
    if before.well or before.reason != reason:
        log.error("%s failed: %s", part, reason, exc_info=error)


def went_well(part: str) -> None:
    """A part did its work."""
    with _lock:
        before = _kept.get(part, Standing())
        _kept[part] = Standing(now_utc(), before.failed_at, before.reason)
    if not before.well:
        log.warning("%s is well again", part)


def standings() -> dict[str, Standing]:
    """How all of them stand that ever went well or failed."""
    with _lock:
        return dict(_kept)
