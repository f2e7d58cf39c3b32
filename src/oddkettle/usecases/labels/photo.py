"""Photographs of labels."""

from __future__ import annotations

from oddkettle.formats.labels.read import MAX_TEXT
from oddkettle.links import text_recognition
from oddkettle.plan.plan_errors import refused


def is_there() -> bool:
    """Whether this computer can read pictures."""
    return text_recognition.is_there()


def text_on(picture: bytes) -> str:
    """The text on a picture. Raises PlanRefused."""
    try:
        return text_recognition.text_of(picture)[:MAX_TEXT]
    except text_recognition.NoRecognition as trouble:
        why, _, remedy = str(trouble).partition(". ")
        size = f"{len(picture)} bytes"
        raise refused("photo", size, "a picture with text", remedy, f"{why}.") from None
