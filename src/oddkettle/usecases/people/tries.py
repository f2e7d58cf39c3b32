"""A limit on wrong tries: so many from one address, so many from all, in a sliding window."""

from __future__ import annotations

import threading
from collections import deque

WINDOW_S = 900.0
MAX_OF_ONE = 5
MAX_OF_ALL = 20
"""At 20 tries in 15 minutes a code of six digits that lives 5 minutes is guessed once in 100,000
[judgement: nobody mistypes oftener]."""


class WrongCode(Exception):
    """Neither a code that is open nor the pass phrase."""


class TooManyTries(Exception):
    """Nobody is let in from there for a while."""

    def __init__(self, wait_s: float) -> None:
        self.wait_s = wait_s
        super().__init__(
            f"Too many wrong tries: at most {MAX_OF_ONE} from one device, {MAX_OF_ALL} from all, "
            f"in {WINDOW_S / 60:.0f} minutes. Try again in {max(1.0, wait_s / 60):.0f} min."
        )


class Tries:
    """Wrong tries of the last `WINDOW_S` seconds, by address. Safe to use from several threads."""

    def __init__(self) -> None:
        self._wrong: deque[tuple[float, str]] = deque()
        self._lock = threading.Lock()

    def begin(self, address: str, now_s: float) -> None:
        """Count a try as wrong until it is `forgiven`: many at once get no more than one by one.

        Raises TooManyTries when this address, or all together, have used up theirs.
        """
        with self._lock:
            while self._wrong and self._wrong[0][0] <= now_s - WINDOW_S:
                self._wrong.popleft()
            own = [at for at, of in self._wrong if of == address]
            if len(own) >= MAX_OF_ONE:
                raise TooManyTries(own[-MAX_OF_ONE] + WINDOW_S - now_s)
            if len(self._wrong) >= MAX_OF_ALL:
                raise TooManyTries(self._wrong[-MAX_OF_ALL][0] + WINDOW_S - now_s)
            self._wrong.append((now_s, address))

    def forgive(self, address: str, now_s: float) -> None:
        """That one was right."""
        with self._lock:
            self._wrong.remove((now_s, address))
