"""Who asks: this machine itself, a device that was let in, or somebody whom nobody knows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from fastapi import Request

from oddkettle.usecases.log.entries import BY_HAND

LOOPBACK = ("127.0.0.1", "::1")


@dataclass(frozen=True)
class Visitor:
    """`role` is "own" for this machine, else the device's; `device` numbers it."""

    role: Literal["own", "full", "guest", "stranger"]
    name: str = ""
    device: int | None = None


OWN = Visitor("own")
STRANGER = Visitor("stranger")


def visitor_of(request: Request) -> Visitor:
    """Who sent a request. Where nothing is shared, only this machine can."""
    found = request.scope.get("visitor", OWN)
    assert isinstance(found, Visitor)
    return found


def writer_of(request: Request) -> str:
    """What an entry says of who wrote it."""
    return visitor_of(request).name or BY_HAND
