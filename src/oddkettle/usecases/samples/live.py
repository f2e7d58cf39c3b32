"""Who waits for new samples of which plan."""

from __future__ import annotations

import threading
from collections import defaultdict


class Hub:
    """Counts what is new of each plan; whoever shows it compares the count with what it knew."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._news: dict[int, int] = defaultdict(int)

    def tell(self, plan_id: int) -> None:
        """Something of this plan is new."""
        with self._lock:
            self._news[plan_id] += 1

    def news(self, plan_id: int) -> int:
        """How often something was."""
        with self._lock:
            return self._news[plan_id]


hub = Hub()
