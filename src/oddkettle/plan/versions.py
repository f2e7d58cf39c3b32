"""Reading plans of any age: older versions are upgraded, newer ones refused."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from oddkettle.plan.complaints import Complaint, PlanRefused, from_validation
from oddkettle.plan.document import FORMAT, VERSION, Plan

Document = dict[str, Any]
Upgrade = Callable[[Document], Document]

UPGRADES: dict[int, Upgrade] = {}
"""`UPGRADES[n]` turns a document of version n into one of version n + 1."""


def plan_from_document(document: object) -> Plan:
    """Check and upgrade a parsed document. Raises PlanRefused with every complaint."""
    if not isinstance(document, dict):
        raise PlanRefused([_whole("This is not a plan.", type(document).__name__, "an object")])
    if document.get("format", FORMAT) != FORMAT:
        raise PlanRefused(
            [_whole("This is another kind of file.", str(document["format"]), FORMAT)]
        )
    version = document.get("version", VERSION)
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise PlanRefused([_version(version, "That is not a version number.", "Use version 1.")])
    if version > VERSION:
        raise PlanRefused(
            [
                _version(
                    version,
                    f"This plan was written by a newer program (version {version}).",
                    "Open it with a newer Odd Kettle; nothing was changed.",
                )
            ]
        )
    for step in range(version, VERSION):
        document = UPGRADES[step](document)
    try:
        return Plan.model_validate(document)
    except ValidationError as error:
        raise PlanRefused(from_validation(error, Plan)) from None


def _version(version: object, says: str, remedy: str) -> Complaint:
    return Complaint(
        where="version", value=str(version), limit=f"1 to {VERSION}", remedy=remedy, says=says
    )


def _whole(says: str, value: str, limit: str) -> Complaint:
    return Complaint(
        where="", value=value, limit=limit, remedy="Choose a plan saved by Odd Kettle.", says=says
    )
