"""Results that are asked for again and again, kept up to one bound in bytes.

What is kept is a pure function of its arguments, so nothing in here can be out of date. All of
the program's results share the bound: the one that nobody has asked for longest goes first. Who
asks for what is just being made waits for it instead of making it again.

A few tables cost more to import what makes them than to read them back: those also go to a shelf
on disk, when the program has given one (`CACHE.shelf`), under a digest of their arguments.
"""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from dataclasses import fields, is_dataclass
from functools import wraps
from typing import Any, ParamSpec, Protocol, TypeVar

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.values.cancellation import GivenUp, check_given_up

P = ParamSpec("P")
T = TypeVar("T")

BOUND_BYTES = 96 * 2**20
SMALL_BYTES = 200
"""What an entry costs besides its arrays, roughly."""


class Shelf(Protocol):
    """Where tables outlive the process."""

    def load(self, name: str) -> dict[str, NDArray[Any]] | None:
        """What was stored under a name; None when it is not there or cannot be read."""

    def store(self, name: str, parts: dict[str, NDArray[Any]]) -> None:
        """Store; a shelf that is full or cannot be written does nothing."""


class BoundedCache:
    """A least-recently-used store with a bound in bytes; safe to use from many threads."""

    def __init__(self, bound_bytes: int = BOUND_BYTES) -> None:
        self.bound_bytes = bound_bytes
        self.held_bytes = 0
        self.shelf: Shelf | None = None
        self._lock = threading.Lock()
        self._entries: OrderedDict[Hashable, tuple[Any, int]] = OrderedDict()
        self._making: dict[Hashable, Future[Any]] = {}

    def ask(self, key: Hashable, make: Callable[[], T]) -> T:
        """What is kept under a key, or what `make` gives, which is then kept.

        Raises GivenUp when nobody waits for it any more.
        """
        check_given_up()
        with self._lock:
            if key in self._entries:
                self._entries.move_to_end(key)
                found: T = self._entries[key][0]
                return found
            underway = self._making.get(key)
            if underway is None:
                mine: Future[Any] = Future()
                self._making[key] = mine
        if underway is not None:
            try:
                made: T = underway.result()
            except GivenUp:
                # Somebody else gave up: it is made for whoever still waits.
                return self.ask(key, make)
            return made
        try:
            value = make()
        except BaseException as error:
            with self._lock:
                del self._making[key]
            mine.set_exception(error)
            raise
        self._keep(key, value)
        mine.set_result(value)
        return value

    def _keep(self, key: Hashable, value: object) -> None:
        size = SMALL_BYTES + bytes_of((key, value))
        with self._lock:
            del self._making[key]
            self._entries[key] = (value, size)
            self.held_bytes += size
            while self.held_bytes > self.bound_bytes and len(self._entries) > 1:
                _, (_, freed) = self._entries.popitem(last=False)
                self.held_bytes -= freed

    def shrink(self, to_bytes: int) -> None:
        """Forget what nobody has asked for longest until no more than so much is held."""
        with self._lock:
            while self.held_bytes > to_bytes and self._entries:
                _, (_, freed) = self._entries.popitem(last=False)
                self.held_bytes -= freed

    def clear(self) -> None:
        """Forget everything."""
        with self._lock:
            self._entries.clear()
            self.held_bytes = 0


CACHE = BoundedCache()


def cached(function: Callable[P, T]) -> Callable[P, T]:
    """Keep what a pure function gives by its arguments, which must be hashable."""
    name = f"{function.__module__}.{function.__qualname__}"

    @wraps(function)
    def asks(*args: P.args, **named: P.kwargs) -> T:
        key = (name, args, tuple(sorted(named.items())))
        return CACHE.ask(key, lambda: function(*args, **named))

    return asks


def cached_on_disk(kind: type[T]) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """`cached`, on disk too. `kind` is the dataclass of arrays that it gives."""

    def wrap(function: Callable[P, T]) -> Callable[P, T]:
        @wraps(function)
        def asks(*args: P.args, **named: P.kwargs) -> T:
            shelf = CACHE.shelf
            if shelf is None:
                return function(*args, **named)
            name = f"{function.__name__.strip('_')}-{_digest_of((args, sorted(named.items())))}"
            parts = shelf.load(name)
            if parts is not None:
                return kind(**parts)
            made = function(*args, **named)
            shelf.store(name, dict(vars(made)))
            return made

        return cached(asks)

    return wrap


def _digest_of(value: object) -> str:
    """A name for arguments that is the same in every process: of what they say of themselves.

    Floats, dates and frozen dataclasses all write themselves out in full.
    """
    return hashlib.sha256(repr(value).encode()).hexdigest()[:24]


def bytes_of(value: object) -> int:
    """Memory that the arrays in a value take, each counted once; the rest is small."""
    seen: dict[int, int] = {}
    _gather_arrays(value, seen)
    return sum(seen.values())


_ARRAYLESS: set[type] = set()
"""Dataclasses in whose first instance no array was found: the others are not looked through."""


def _gather_arrays(value: object, seen: dict[int, int]) -> None:
    if isinstance(value, np.ndarray):
        owner = value.base if isinstance(value.base, np.ndarray) else value
        seen[id(owner)] = owner.nbytes
    elif isinstance(value, (str, bytes)):
        seen[id(value)] = len(value)
    elif isinstance(value, dict):
        for part in value.values():
            _gather_arrays(part, seen)
    elif isinstance(value, (tuple, list)):
        # A long list of plain numbers is as long as it is; looking at each would take longer.
        if value and isinstance(value[0], (int, float)):
            seen[id(value)] = 8 * len(value)
            return
        for part in value:
            _gather_arrays(part, seen)
    elif type(value) not in _ARRAYLESS and is_dataclass(value):
        before = len(seen)
        for field in fields(value):
            part = getattr(value, field.name)
            if not isinstance(part, (str, int, float)):
                _gather_arrays(part, seen)
        if len(seen) == before:
            _ARRAYLESS.add(type(value))
