"""A copy of everything that is kept, to be saved somewhere else."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import ExitStack

from fastapi import APIRouter
from fastapi.responses import StreamingResponse
from starlette.concurrency import run_in_threadpool

from oddkettle.api.download import saved_as
from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.service.copies import copy_to_send

router = APIRouter(prefix="/api", tags=["copies"], responses=PROBLEMS)
PIECE = 1_000_000


@router.get("/backup", response_class=StreamingResponse)
async def save_backup() -> StreamingResponse:
    """The whole data file, consistent, while it is in use; sent piece by piece from the disk."""
    held = ExitStack()
    copy = await run_in_threadpool(held.enter_context, copy_to_send())
    size = copy.stat().st_size

    async def pieces() -> AsyncIterator[bytes]:
        with held, copy.open("rb") as file:
            while piece := await run_in_threadpool(file.read, PIECE):
                yield piece

    # Packing it would take a core for as long as it is sent.
    own = {"Content-Length": str(size), "Content-Encoding": "identity"}
    headers = {**saved_as(copy.name), **own}
    return StreamingResponse(pieces(), media_type="application/vnd.sqlite3", headers=headers)
