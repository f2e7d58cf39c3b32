"""Who asks: this machine itself, a device that was let in, or somebody whom nobody knows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from fastapi import Depends, Request

from oddkettle.usecases.field.log.entries import BY_HAND, Writer

LOOPBACK = ("127.0.0.1", "::1")


@dataclass(frozen=True)
class Visitor:
    """`role` is "own" for this machine, else the device's; `device` numbers it."""

    role: Literal["own", "full", "guest", "stranger"]
    name: str = ""
    device: int | None = None

    @property
    def writer(self) -> Writer:
        """Who writes, as an entry keeps it."""
        return Writer(self.name or BY_HAND, self.device)


OWN = Visitor("own")
STRANGER = Visitor("stranger")


def visitor_of(request: Request) -> Visitor:
    """Who sent a request. Where nothing is shared, only this machine can."""
    found = request.scope.get("visitor", OWN)
    assert isinstance(found, Visitor)
    return found


Asker = Annotated[Visitor, Depends(visitor_of)]
"""Who asks, for a route."""
