"""Letting other devices of the camp's network in, and sending them away."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, ConfigDict, Field

from oddkettle.api.middleware.visitor import Asker
from oddkettle.api.problems import PROBLEMS
from oddkettle.plan.quantities import LazyModel, Name
from oddkettle.usecases.people.addresses import qr_image
from oddkettle.usecases.people.sharing import (
    CODE_LIVES_S,
    COOKIE_LIVES_S,
    Role,
    Sharing,
    let_in_devices,
    send_away,
)
from oddkettle.usecases.simulate.missing import NotHere

router = APIRouter(prefix="/api/sharing", tags=["sharing"], responses=PROBLEMS)


class Me(LazyModel):
    """Who asks, as the server sees it."""

    shared: bool
    """Whether other devices can be let in at all."""
    role: Literal["own", "full", "guest", "stranger"]
    name: str = ""


class DeviceCard(LazyModel):
    """A device that is let in."""

    id: int
    name: str
    role: Role
    paired_at: str
    seen_at: str
    this: bool
    """Whether it is the one that asks."""


class SharingReport(LazyModel):
    """Where others find this machine, and who is let in."""

    shared: bool
    urls: list[str]
    devices: list[DeviceCard]


class NewCode(BaseModel):
    """What a device that is let in with a code may do."""

    model_config = ConfigDict(extra="forbid")

    role: Role = "full"


class CodeShown(LazyModel):
    """A code, for how long it holds, and for each address where it may be typed, a picture."""

    code: str
    lives_s: float
    urls: list[str]
    pictures: list[str]


class Knock(BaseModel):
    """What a device gives to be let in."""

    model_config = ConfigDict(extra="forbid")

    given: Annotated[str, Field(min_length=1, max_length=200)]
    name: Name


def _sharing(request: Request) -> Sharing:
    found = request.app.state.sharing
    if found is None:
        raise NotHere(
            "Odd Kettle answers this machine alone. Start it with `oddkettle serve --share` and a "
            "pass phrase in ODDKETTLE_PASS_PHRASE to let other devices in."
        )
    assert isinstance(found, Sharing)
    return found


@router.get("/me")
def who_am_i(request: Request, asker: Asker) -> Me:
    """Who asks: this machine, a device that was let in, a guest, or a stranger."""
    return Me(shared=request.app.state.sharing is not None, role=asker.role, name=asker.name)


@router.get("")
def show_sharing(request: Request, asker: Asker) -> SharingReport:
    """Where others find this machine, and which devices are let in."""
    sharing = request.app.state.sharing
    return SharingReport(
        shared=sharing is not None,
        urls=sharing.urls() if sharing else [],
        devices=[
            DeviceCard.model_validate(
                {
                    "id": d.id,
                    "name": d.name,
                    "role": d.role,
                    "paired_at": d.paired_at,
                    "seen_at": d.seen_at,
                    "this": d.id == asker.device,
                }
            )
            for d in let_in_devices()
        ],
    )


@router.post("/codes", status_code=201)
def make_code(request: Request, asker: Asker, new: NewCode) -> CodeShown:
    """A code for one device; shown on this machine alone. It takes the place of an open one."""
    sharing = _sharing(request)
    if asker.role != "own":
        raise NotHere("Codes are shown on the machine alone that Odd Kettle runs on.")
    code = sharing.new_code(new.role).code
    urls = [f"{url}/pair#{code}" for url in sharing.urls()]
    return CodeShown(
        code=code, lives_s=CODE_LIVES_S, urls=urls, pictures=[qr_image(url) for url in urls]
    )


@router.post("/pair", status_code=201)
def let_in(request: Request, response: Response, knock: Knock) -> Me:
    """Let the device that asks in, by a code or the pass phrase. It is given a cookie."""
    sharing = _sharing(request)
    address = request.client.host if request.client else ""
    device, cookie = sharing.let_in(knock.given, knock.name, address)
    response.set_cookie(
        sharing.cookie_name,
        cookie,
        max_age=COOKIE_LIVES_S,
        secure=request.url.scheme == "https",
        httponly=True,
        samesite="strict",
    )
    return Me.model_validate({"shared": True, "role": device.role, "name": device.name})


@router.post("/leave", status_code=204)
def leave(request: Request, response: Response, asker: Asker) -> None:
    """The device that asks goes."""
    if asker.device is not None:
        send_away(asker.device)
        response.delete_cookie(_sharing(request).cookie_name)


@router.delete("/devices/{device_id}", status_code=204)
def send_device_away(device_id: int) -> None:
    """Send a device away: from now on it must be let in anew."""
    send_away(device_id)
