"""The whole wiring drawing of a box."""

from __future__ import annotations

from oddkettle.core.construction.schematic.bars import bar_sheets
from oddkettle.core.construction.schematic.figures import Sheet
from oddkettle.core.construction.schematic.supply import supply_sheets
from oddkettle.core.construction.schematic.uses import use_sheets
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.simulation.run import Run


def draw_schematic(run: Run, board: Board, title: str) -> tuple[Sheet, ...]:
    """Every sheet of a box, in the order in which it is read."""
    return (
        *supply_sheets(run, board, title),
        *use_sheets(run, board, title),
        *bar_sheets(run, board, title),
    )
