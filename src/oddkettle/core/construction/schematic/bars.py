"""The sheet of bars: what is bolted where, stud by stud, in the order along each bar."""

from __future__ import annotations

from oddkettle.core.construction.schematic.draft import Draft, brief
from oddkettle.core.construction.schematic.figures import (
    HEIGHT,
    SMALL,
    Ink,
    Sheet,
)
from oddkettle.core.construction.wiring.cable import size_text
from oddkettle.core.construction.wiring.circuits import BAR, LOW_BAR, Board
from oddkettle.core.construction.wiring.terminals import (
    BLOCK,
    MINUS_BAR,
    Piece,
    Terminal,
    on_bar,
    pieces_of,
    stud_text,
)
from oddkettle.core.simulation.run import Run

CELL_MM, LEFT, TALL = 24.0, 3.0, 34.0
ACROSS = 10
LETTERS = 16
BARS: tuple[tuple[str, Ink], ...] = (
    (BAR, "danger"),
    (BLOCK, "danger"),
    (LOW_BAR, "danger"),
    (MINUS_BAR, "negative"),
)

Stud = tuple[Piece, Terminal]


def bar_sheets(run: Run, board: Board, title: str) -> list[Sheet]:
    """As many sheets as the bars want; none for a ready-made unit."""
    if run.case.unit is not None:
        return []
    pieces = pieces_of(run, board)
    strips: list[tuple[str, Ink, int, list[Stud]]] = []
    for bar, ink in BARS:
        studs = list(on_bar(pieces, bar))
        strips.extend((bar, ink, n, studs[n : n + ACROSS]) for n in range(0, len(studs), ACROSS))
    most = int((HEIGHT - 24.0) // TALL)
    sheets = []
    for n in range(0, len(strips), most):
        more = f", continued ({n // most + 1})" if n else ""
        draft = Draft(board, f"{title}: bars, stud by stud{more}")
        for k, strip in enumerate(strips[n : n + most]):
            _strip(draft, board, *strip, y=14.0 + k * TALL)
        sheets.append(
            draft.done(
                "Begin at the left with the battery's own lead; the strongest sits next to it."
            )
        )
    return sheets


def _strip(
    draft: Draft, board: Board, bar: str, ink: Ink, before: int, studs: list[Stud], y: float
) -> None:
    sign = "−" if bar == MINUS_BAR else "+"
    more = ", continued" if before else ""
    draft.label(LEFT, y + 3.0, f"{bar[0].upper()}{bar[1:]} ({sign}){more}", 3.4, bold=True)
    top = y + 12.0
    at = (LEFT, top, len(studs) * CELL_MM - 2.0, 4.4)
    draft.shape("bar", at, ink, None, (), f"{bar}-{before}")
    names = {c.number: c for c in board.circuits}
    for n, (piece, end) in enumerate(studs):
        x = LEFT + n * CELL_MM + CELL_MM / 2 - 1.0
        circuit = names[piece.circuit]
        draft.shape("stud", (x - 1.5, top + 0.7, 3.0, 3.0), ink, piece.circuit)
        draft.shape(
            "number", (x - 2.4, top - 6.0, 4.8, 4.0), ink, piece.circuit, (str(piece.circuit),)
        )
        area = "no size"
        if piece.area_mm2 is not None:
            area = size_text(piece.area_mm2, board.wiring.series)
        other = piece.ends if end is piece.begins else piece.begins
        lines = (
            f"{before + n + 1}. {stud_text(end)}",
            area,
            brief(_where(other.at), LETTERS),
            brief(circuit.need.name, LETTERS),
        )
        for k, line in enumerate(lines):
            draft.label(x, top + 8.0 + 3.5 * k, line, SMALL - 0.3, "middle", piece.circuit)


def _where(at: str) -> str:
    return f"to {at}"
