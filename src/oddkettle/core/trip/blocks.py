"""The kinds of stretches of time that stand on the day board: one record a kind."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

BlockKind = Literal[
    "drive", "hookup", "generator", "crank", "panel_out", "quiet", "outage", "second_bank"
]
BLOCK_KINDS: tuple[BlockKind, ...] = get_args(BlockKind)


STRAYS_H, MAX_STRAY_SHARE = 0.25, 0.4
"""How far a drive or a hook-up strays in time [h], but no more than this share of it
[judgement]."""


@dataclass(frozen=True)
class BlockFacts:
    """What is known of a kind of block.

    `does` is what one does in it, as a day's list and a calendar say it; None where nothing is
    done: it is only so, like quiet hours. `fails` is the share of times in which nothing comes of
    it, though it was meant: a site's post is dead, an engine does not start [judgement].
    """

    does: str | None = None
    fails: float = 0.0


BLOCKS: dict[BlockKind, BlockFacts] = {
    "drive": BlockFacts("Drive"),
    "hookup": BlockFacts("On mains", fails=0.05),
    "generator": BlockFacts("Run the generator", fails=0.03),
    "crank": BlockFacts("Turn the crank", fails=0.1),
    "panel_out": BlockFacts("Folding panel out"),
    "quiet": BlockFacts(),
    "outage": BlockFacts(),
    "second_bank": BlockFacts(),
}
DONE: dict[BlockKind, str] = {kind: facts.does for kind, facts in BLOCKS.items() if facts.does}
"""What is done in a block, where something is done."""
