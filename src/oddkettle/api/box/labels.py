"""Labels: what stands on a part, as the fields that it goes into."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.labels import photo, reading
from oddkettle.usecases.labels.reading import LabelReading, LabelText

router = APIRouter(prefix="/api/labels", tags=["labels"], responses=PROBLEMS)


class Photographs(BaseModel):
    """Whether photographs of labels can be read here."""

    readable: bool


class PhotographText(BaseModel):
    """The text on a photograph."""

    text: str


@router.post("")
def read_label(asked: LabelText) -> LabelReading:
    """Which figure of a label goes where, and the part with it put in."""
    return reading.read_text(asked)


@router.get("/photo")
def photographs() -> Photographs:
    """Whether a photograph can be read on this computer."""
    return Photographs(readable=photo.is_there())


@router.post(
    "/photo",
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/octet-stream": {"schema": {"type": "string"}}},
        }
    },
)
async def read_photograph(request: Request) -> PhotographText:
    """The text on a photograph, sent as it is."""
    return PhotographText(text=await run_in_threadpool(photo.text_on, await request.body()))
