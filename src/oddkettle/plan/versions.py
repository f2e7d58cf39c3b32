"""Documents of any age: older versions are upgraded, newer ones refused."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic_core import PydanticCustomError

FORMAT = "oddkettle-plan"
VERSION = 4

Document = dict[str, Any]
Upgrade = Callable[[Document], Document]


def _from_1(document: Document) -> Document:
    """Version 2 knows several vehicle and mains sources, and a day's low and high."""
    box = dict(_inner(document, "box"))
    for old, new, name in (
        ("dcdc", "vehicle", "DC-DC charger"),
        ("mains", "mains", "Mains charger"),
    ):
        charger = box.pop(old, None)
        if isinstance(charger, dict):
            box[new] = [{"id": new, "name": name, **charger}]
    guess = dict(_inner(document, "assumptions"))
    air = guess.pop("ambient_c", 15)
    guess = {"usual_clearness": 0.68, "step_min": 5, "low_c": air, "high_c": air, **guess}
    upgraded = {**document, "version": 2, "assumptions": guess}
    if isinstance(document.get("box"), dict):
        upgraded["box"] = box
    return upgraded


def _inner(document: Document, key: str) -> Document:
    """A part of a document that nobody has checked yet."""
    part = document.get(key)
    return part if isinstance(part, dict) else {}


def _from_2(document: Document) -> Document:
    """Version 3 tells boxes apart, begins and ends trips within a day, and says scenarios."""
    guess = dict(_inner(document, "assumptions"))
    if "futures" in guess:
        guess["scenarios"] = guess.pop("futures")
    upgraded = {**document, "version": 3}
    if guess:
        upgraded["assumptions"] = guess
    return upgraded


def _from_3(document: Document) -> Document:
    """Version 4 says what a fridge was set to where its duty was told: a freezer's, as it was."""
    upgraded = {**document, "version": 4}
    use = _inner(document, "use")
    appliances = use.get("appliances")
    if isinstance(appliances, list):
        upgraded["use"] = {**use, "appliances": [_as_told(one) for one in appliances]}
    return upgraded


def _as_told(appliance: object) -> object:
    """An appliance whose duty was told at its own setting, where that is a freezer's."""
    pattern = appliance.get("pattern") if isinstance(appliance, dict) else None
    if not isinstance(appliance, dict) or not isinstance(pattern, dict):
        return appliance
    inside = pattern.get("set_c")
    if isinstance(inside, bool) or not isinstance(inside, int | float) or inside >= 0:
        return appliance
    return {**appliance, "pattern": {"duty_set_c": inside, **pattern}}


UPGRADES: dict[int, Upgrade] = {1: _from_1, 2: _from_2, 3: _from_3}
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
    text: str, *, where: str, value: object, limit: str, remedy: str
) -> PydanticCustomError:
    if isinstance(value, str):
        # Half of a surrogate pair cannot be written out: the refusal itself would end in an error.
        value = value.encode(errors="replace").decode()
    return PydanticCustomError(
        "version",
        "{text}",
        {"text": text, "where": where, "value": value, "limit": limit, "remedy": remedy},
    )
