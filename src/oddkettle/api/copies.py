"""A copy of everything that is kept, to be saved somewhere else."""

from __future__ import annotations

from fastapi import APIRouter, Response

from oddkettle.api.download import saved_as
from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.copies import copy_bytes

router = APIRouter(prefix="/api", tags=["copies"], responses=PROBLEMS)


@router.get("/backup", response_class=Response)
def save_backup() -> Response:
    """The whole data file, consistent, while it is in use."""
    name, data = copy_bytes()
    return Response(data, media_type="application/vnd.sqlite3", headers=saved_as(name))
