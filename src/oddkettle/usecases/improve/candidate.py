"""What a change is that can be weighed: its edits, its price, its weight."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import Edit
from oddkettle.results.run import Range

Group = Annotated[str, Field(json_schema_extra={"enum": [*SOURCE_KINDS, "battery", "use"]})]


class Candidate(LazyModel):
    """One change: what it is, the edits that make it, and what it costs and weighs more."""

    key: str
    group: Group
    text: str
    phrase: str
    """The change as the subject of a sentence, like "half the laptop's hours"."""
    edits: list[Edit]
    euro: Range | None
    """None where it costs no money."""
    kg: Range | None
    bought: bool = True
    """Whether a part is bought for it; else it can be made on the way."""
    bother: int = 0
    """How much trouble it is to make: 0 for least."""
    saves: bool = False
    """Whether something is left out by it: price and weight are what is saved."""
    slot: str | None = None
    """What it changes of habits, where a person may say that it is never to change: "drive",
    "hookup", "appliance:laptop"."""
    minutes: int = 0
    """Of how many minutes more, where it is had by the minute."""


def without_a_shop(change: Candidate) -> bool:
    """Whether a change can be made on the way: nothing is bought for it."""
    return not change.bought
