"""Ending work that nobody waits for any more.

Who asks a long question may go. Whoever serves it says so by `giving_up_when`; the work looks at
`check_given_up` between its pieces, each of which takes a fraction of a second.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import TypeVar

T = TypeVar("T")


class GivenUp(Exception):
    """Nobody waits for this any more."""


_GONE: ContextVar[Callable[[], bool] | None] = ContextVar("gone", default=None)


@contextmanager
def giving_up_when(gone: Callable[[], bool]) -> Iterator[None]:
    """Within this, work ends soon after `gone` says yes; it is asked from any thread."""
    before = _GONE.set(gone)
    try:
        yield
    finally:
        _GONE.reset(before)


def given_up() -> bool:
    """Whether nobody waits any more."""
    gone = _GONE.get()
    return gone is not None and gone()


def check_given_up() -> None:
    """Raise GivenUp if nobody waits any more."""
    if given_up():
        raise GivenUp


def while_waited_for(these: Iterable[T], every: int = 500) -> Iterator[T]:
    """These, one after the other, as long as somebody waits: asked at times. Raises GivenUp."""
    for n, one in enumerate(these):
        if n % every == 0:
            check_given_up()
        yield one
