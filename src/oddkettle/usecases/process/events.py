"""What is new of which plan, for whoever shows it."""

from __future__ import annotations

import threading
from collections import defaultdict
from typing import Literal, get_args

What = Literal["samples", "log", "alarms"]


class Hub:
    """Counts what is new of each plan; whoever shows it compares the count with what it knew."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._news: dict[tuple[int, What], int] = defaultdict(int)

    def tell(self, plan_id: int, what: What = "samples") -> None:
        """Something of this plan is new: samples and their monitor, entries of the log, alarms."""
        with self._lock:
            self._news[plan_id, what] += 1

    def news(self, plan_id: int, what: What) -> int:
        """How often something was, since the start."""
        with self._lock:
            return self._news[plan_id, what]

    def all_news(self, plan_id: int) -> int:
        """How often anything was."""
        with self._lock:
            return sum(self._news[plan_id, what] for what in get_args(What))


hub = Hub()
