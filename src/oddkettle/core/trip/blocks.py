"""The kinds of stretches of time that stand on the day board: one record a kind."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

BlockKind = Literal[
    "drive", "hookup", "generator", "crank", "panel_out", "quiet", "outage", "second_bank"
]
BLOCK_KINDS: tuple[BlockKind, ...] = get_args(BlockKind)


@dataclass(frozen=True)
class BlockFacts:
    """What is known of a kind of block.

    `does` is what one does in it, as a day's list and a calendar say it; None where nothing is
    done: it is only so, like quiet hours.
    """

    does: str | None = None


BLOCKS: dict[BlockKind, BlockFacts] = {
    "drive": BlockFacts("Drive"),
    "hookup": BlockFacts("On mains"),
    "generator": BlockFacts("Run the generator"),
    "crank": BlockFacts("Turn the crank"),
    "panel_out": BlockFacts("Folding panel out"),
    "quiet": BlockFacts(),
    "outage": BlockFacts(),
    "second_bank": BlockFacts(),
}
DONE: dict[BlockKind, str] = {kind: facts.does for kind, facts in BLOCKS.items() if facts.does}
"""What is done in a block, where something is done."""
