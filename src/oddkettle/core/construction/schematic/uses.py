"""Sheets of uses: bars and fuse blocks left, one row for each circuit."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.schematic.draft import (
    FUSE_W,
    HIGH,
    LOW,
    PITCH,
    RETURN,
    TOP,
    Draft,
    brief,
    ink_of,
    two_lines,
)
from oddkettle.core.construction.schematic.figures import SMALL, Sheet
from oddkettle.core.construction.wiring.circuits import LOW_BAR, Board, Circuit
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.terminals import in_block
from oddkettle.core.simulation.run import Run

MINUS_X, PLUS_X, BLOCK_X = 8.0, 18.0, 36.0
FUSE_X, SHARED_X, TAG_X, PLUG_X = 44.0, 59.0, 63.0, 96.0
BOX_X, BOX_W, NOTE_X = 106.0, 42.0, 160.0
LOW_FUSE_X, LOW_TURN_X = 188.0, 212.0
"""Of a converter's output: its fuse, and where it turns down to its block."""
ROWS = 11
GAP = 5.0
"""Above a fuse block, for its name [mm]."""
OUTPUT_X, OUTPUT_W = 22.0, 14.0
USES = {"inverter", "converter", "outlet", "usb", "heater"}


def use_sheets(run: Run, board: Board, title: str) -> list[Sheet]:
    """One sheet, or more where there are many circuits; none for a ready-made unit."""
    if run.case.unit is not None:
        return []
    rows = use_rows(board)
    sheets = []
    for n in range(0, len(rows), ROWS):
        more = f", continued ({n // ROWS + 1})" if n else ""
        draft = Draft(board, f"{title}: uses{more}")
        low = _rows(draft, run, rows[n : n + ROWS])
        draft.bars(PLUS_X, MINUS_X, low)
        sheets.append(draft.done())
    return sheets


def use_rows(board: Board) -> list[Circuit]:
    """Uses in the order of their rows.

    Strong ones at the bar come first, then a block's; sharers follow their hosts; what hangs on
    the converter is last.
    """
    uses = [c for c in board.circuits if c.need.role in USES]
    # A converter in the fuse block is its last, so that its output's way down is clear.
    order = sorted(uses, key=lambda c: (_section(c, board), c.need.role == "converter", c.number))
    found: list[Circuit] = []
    for c in order:
        if c.fuse_with is None or board.of(c.fuse_with) not in uses:
            found.append(c)
            found.extend(o for o in order if o.fuse_with == c.key)
    return found


def _section(c: Circuit, board: Board) -> int:
    """0 at the bar, 1 in the fuse block, 2 the converter, 3 behind it."""
    if c.need.role == "converter" and not in_block(c):
        return 2
    if c.need.begins == LOW_BAR:
        return 3
    host = board.of(c.fuse_with) if c.fuse_with else None
    return 1 if in_block(host or c) else 0


def _rows(draft: Draft, run: Run, rows: list[Circuit]) -> float:
    """Draw the rows; returns where the bars end [mm]."""
    y = TOP + 1.0
    before: int | None = None
    blocks: dict[int, list[tuple[Circuit, float]]] = {}
    spots: dict[str, float] = {}
    for c in rows:
        section = _section(c, draft.board)
        if section in {1, 3} and section != before:
            y += GAP
        before = section
        spots[c.key] = y
        if section in {1, 3} and in_block(c):
            blocks.setdefault(section, []).append((c, y))
        _row(draft, run, c, y, spots)
        y += PITCH
    for section, inside in blocks.items():
        _block(draft, section, inside, spots.get("converter"))
    return y - PITCH + RETURN + 2.0


def _row(draft: Draft, run: Run, c: Circuit, y: float, spots: dict[str, float]) -> None:
    draft.tag(c, TAG_X, y)
    _feed(draft, c, y, spots)
    if c.need.role == "converter":
        draft.box(c, BOX_X, BOX_W, y, *two_lines(c.need.ends, 23))
    else:
        passes = CONNECTORS[c.connector].hole_mm and c.connector not in {"gland", "socket", "usb"}
        if passes:
            draft.plug(c, PLUG_X, y)
        draft.box(c, BOX_X, BOX_W, y, *two_lines(c.need.name, 23))
    if c.need.role == "inverter":
        _inverter(draft, c, y)
    elif c.need.role != "converter":
        _note(draft, run, c, y)
    low = y + RETURN
    if c.returns == "battery_side":
        draft.minus(c, (BOX_X, low), (TAG_X + 12.0, low), net=f"past-{c.key}", ink="danger")
        draft.label(TAG_X + 11.0, low + 1.0, "to battery −", SMALL, "end", c.number, bold=True)
        return
    if c.need.output:
        # Many controllers switch the negative: it goes back to their own terminal.
        draft.minus(c, (BOX_X, low), (OUTPUT_X + OUTPUT_W, low), net=f"-{c.key}")
        return
    draft.minus(c, (BOX_X, low), (MINUS_X, low))
    draft.dot(MINUS_X, low, "negative", c.number)


def _feed(draft: Draft, c: Circuit, y: float, spots: dict[str, float]) -> None:
    """Where its positive comes from: the bar, its block, or another circuit's fuse."""
    if c.fuse_with is not None:
        host = draft.board.of(c.fuse_with)
        if host is not None and host.key in spots:
            draft.plus(
                c, (SHARED_X, spots[host.key]), (SHARED_X, y), (BOX_X, y), net=f"+{host.key}"
            )
            draft.dot(SHARED_X, spots[host.key], ink_of(c), c.number)
        else:
            draft.shape(
                "box",
                (BLOCK_X, y - 2.6, 24.0, 5.2),
                ink_of(c),
                c.number,
                (f"fuse of {host.number if host else 0}",),
            )
            draft.plus(c, (BLOCK_X + 24.0, y), (BOX_X, y))
        return
    if c.need.output:
        # One controller alone may have such an output: which one needs no words.
        draft.shape(
            "box",
            (OUTPUT_X, y - 2.6, OUTPUT_W, RETURN + 5.2),
            ink_of(c),
            c.number,
            ("load", "output"),
        )
        draft.plus(c, (OUTPUT_X + OUTPUT_W, y), (BOX_X, y))
        draft.protect(c, FUSE_X, y)
        return
    inside = in_block(c)
    start = BLOCK_X if inside or c.need.begins == LOW_BAR else PLUS_X
    draft.plus(c, (start, y), (BOX_X, y))
    if not inside:
        draft.dot(start, y, ink_of(c), c.number)
    draft.protect(c, FUSE_X, y)


def _block(
    draft: Draft, section: int, inside: list[tuple[Circuit, float]], converter_y: float | None
) -> None:
    """A fuse block round its fuses, and what feeds it."""
    top, low = inside[0][1], inside[-1][1]
    frame = (BLOCK_X - 2.4, top - HIGH - 1.0, FUSE_X + FUSE_W + 4.0 - BLOCK_X, low - top + 11.0)
    draft.shape("frame", frame, "ink")
    main = draft.board.of("battery")
    assert main is not None
    net = "bar" if section == 1 else "+low"
    if low > top:
        draft.plus(inside[0][0], (BLOCK_X, top), (BLOCK_X, low), net=net)
    for c, y in inside:
        draft.dot(BLOCK_X, y, ink_of(c), c.number)
    word = "fuse block" if section == 1 else LOW_BAR
    draft.label(BLOCK_X + 1.5, top - HIGH - 2.2, word)
    if section == 1:
        draft.plus(main, (PLUS_X, top), (BLOCK_X, top), net="bar")
        draft.dot(PLUS_X, top, "level", main.number)
    elif converter_y is not None:
        lead = draft.board.of("converter-out")
        assert lead is not None
        turn = converter_y + RETURN + LOW + 2.2
        draft.plus(
            lead,
            (BOX_X + BOX_W, converter_y),
            (LOW_TURN_X, converter_y),
            (LOW_TURN_X, turn),
            (BLOCK_X, turn),
            (BLOCK_X, top),
            net="+low",
        )
        draft.tag(lead, BOX_X + BOX_W + 5.0, converter_y)
        draft.protect(lead, LOW_FUSE_X, converter_y)
        draft.label(LOW_TURN_X + 2.0, converter_y + 1.0, "12 V")


def _inverter(draft: Draft, c: Circuit, y: float) -> None:
    """Its mains side: outlets behind a residual-current device, its case to earth."""
    end, middle = BOX_X + BOX_W, y + RETURN / 2
    draft.line("ac", "ac-inverter", (end, middle - 1.0), (184.0, middle - 1.0), ink="mains")
    draft.label(154.0, middle - 2.6, "licensed work", circuit=c.number)
    draft.shape(
        "box",
        (184.0, y - HIGH, 40.0, HIGH + RETURN + LOW),
        "mains",
        c.number,
        two_lines(_mains_words(draft.board), 22),
    )
    draft.line("signal", "case", (end, y + RETURN), (end + 5.0, y + RETURN), ink="ink")
    draft.shape("earth", (end + 5.0, y + RETURN - 2.0, 4.0, 4.0), "ink", c.number)


def _mains_words(board: Board) -> str:
    """What follows the inverter: the owner's outlets, or those on its own face."""
    names = [outlet.name for outlet in board.wiring.outlets if outlet.mains]
    return f"RCD, then {' and '.join(names)}" if names else "RCD, then outlets"


def _note(draft: Draft, run: Run, c: Circuit, y: float) -> None:
    """What hangs on it, in two lines."""
    names = [a.name for a in run.case.appliances if a.key in c.need.appliances]
    for n, line in enumerate(_wrapped(", ".join(names), 50)):
        if n < 2 and line != c.need.name:
            draft.label(NOTE_X, y + 0.6 + 4.2 * n, line, circuit=c.number)


def _wrapped(text: str, most: int) -> Iterator[str]:
    while len(text) > most:
        cut = text.rfind(" ", 0, most + 1)
        if cut <= 0:
            yield brief(text, most)
            return
        yield text[:cut]
        text = text[cut + 1 :]
    if text:
        yield text
