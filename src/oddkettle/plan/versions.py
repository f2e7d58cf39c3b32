"""Documents of any age: older versions are upgraded, newer ones refused."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic_core import PydanticCustomError

FORMAT = "oddkettle-plan"
VERSION = 1

Document = dict[str, Any]
Upgrade = Callable[[Document], Document]

UPGRADES: dict[int, Upgrade] = {}
"""`UPGRADES[n]` turns a document of version n into one of version n + 1."""


def upgraded(document: object) -> object:
    """The document at today's version. Raises PydanticCustomError for what is no such plan."""
    if not isinstance(document, dict):
        return document
    if document.get("format", FORMAT) != FORMAT:
        raise _refusal(
            "This is another kind of file.",
            where="format",
            value=document["format"],
            limit=FORMAT,
            remedy="Choose a plan saved by Odd Kettle.",
        )
    version = document.get("version", VERSION)
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise _refusal(
            "That is not a version number.",
            where="version",
            value=version,
            limit=f"1 to {VERSION}",
            remedy=f"Write version {VERSION}.",
        )
    if version > VERSION:
        raise _refusal(
            f"This plan was written by a newer program (version {version}).",
            where="version",
            value=version,
            limit=f"1 to {VERSION}",
            remedy="Open it with a newer Odd Kettle; nothing was changed.",
        )
    for step in range(version, VERSION):
        document = UPGRADES[step](document)
    return document


def _refusal(
    says: str, *, where: str, value: object, limit: str, remedy: str
) -> PydanticCustomError:
    return PydanticCustomError(
        "version",
        "{says}",
        {"says": says, "where": where, "value": value, "limit": limit, "remedy": remedy},
    )
