"""One's own things: a list, one more, one less, files."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Request, Response
from starlette.concurrency import run_in_threadpool

from oddkettle.api.download import saved_as
from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.boxes import shelf
from oddkettle.usecases.boxes.shelf import NewThing, OwnThing

router = APIRouter(prefix="/api/shelf", tags=["shelf"], responses=PROBLEMS)
TYPES = {"json": "application/json", "csv": "text/csv; charset=utf-8"}


@router.get("")
def list_things() -> list[OwnThing]:
    """Everything on one's own shelf."""
    return shelf.own_things()


@router.post("", status_code=201)
def keep_thing(new: NewThing) -> OwnThing:
    """Keep one thing."""
    return shelf.keep_thing(new)


@router.delete("/{thing_id}", status_code=204)
def forget_thing(thing_id: int) -> Response:
    """Take one off the shelf."""
    shelf.forget_thing(thing_id)
    return Response(status_code=204)


@router.get("/file/{shape}", response_class=Response)
def shelf_file(shape: Literal["json", "csv"]) -> Response:
    """The whole shelf as a file."""
    return Response(
        shelf.shelf_file(shape),
        media_type=TYPES[shape],
        headers=saved_as(f"shelf.{shape}"),
    )


@router.post(
    "/file",
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/octet-stream": {"schema": {"type": "string"}}},
        }
    },
)
async def bring_shelf(request: Request) -> list[OwnThing]:
    """Keep every thing of a JSON or CSV file, sent as it is."""
    return await run_in_threadpool(shelf.bring_shelf, await request.body())
