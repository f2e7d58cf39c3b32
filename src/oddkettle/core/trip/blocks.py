"""The kinds of stretches of time that stand on the day board."""

from __future__ import annotations

from typing import Literal, get_args

BlockKind = Literal["drive", "hookup", "generator", "panel_out", "quiet", "outage", "second_bank"]
BLOCK_KINDS: tuple[BlockKind, ...] = get_args(BlockKind)
