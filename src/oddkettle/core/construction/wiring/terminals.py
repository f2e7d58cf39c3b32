"""Where every conductor begins and ends: what is crimped on, and the stud that it goes on.

The drawing of the bars, the count of lugs and the checks of the drawing all come from here.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from oddkettle.core.construction.wiring.circuits import (
    BAR,
    LOW_BAR,
    OUTLETS,
    Board,
    Circuit,
)
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.simulation.own_wiring import Family
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.relay import Relay

Ending = Literal["lug", "ferrule", "push_on", "contact"]
Sign = Literal["+", "-"]

MINUS_BAR = "negative bar"
BLOCK = "fuse block"
LINK_M = 0.2
"""From the positive bar to the fuse block, in the main cable, so that the main fuse protects it
[m, judgement]."""
CLAMP_MOST_MM2 = 16.0
"""Screw clamps of chargers take up to this [mm2, judgement]."""
THICK_MM2, MEDIUM_MM2 = 25.0, 6.0
STRONG_A = 200.0
SMALL_AH, MIDDLE_AH = 20.0, 40.0


@dataclass(frozen=True)
class Terminal:
    """One end of a conductor: the device, what is crimped on, and its stud [mm], 0 for none."""

    at: str
    ending: Ending
    stud_mm: float = 0.0


@dataclass(frozen=True)
class Piece:
    """One conductor between two terminals; `area_mm2` is None where no size suits."""

    circuit: int
    sign: Sign
    area_mm2: float | None
    begins: Terminal
    ends: Terminal


def pieces_of(run: Run, board: Board) -> tuple[Piece, ...]:
    """Every conductor of a board, by circuit and then from source to load."""
    return tuple(piece for c in board.circuits for piece in _pieces(run, board, c))


def on_bar(pieces: tuple[Piece, ...], bar: str) -> tuple[tuple[Piece, Terminal], ...]:
    """What is bolted to a bar, in the order along it.

    The battery's own lead sits at its end and the strongest next to it: so the least current
    passes along the bar.
    """
    found = [
        (piece, end) for piece in pieces for end in (piece.begins, piece.ends) if end.at == bar
    ]
    return tuple(sorted(found, key=lambda one: (one[0].circuit != 1, -(one[0].area_mm2 or 0.0))))


def in_block(circuit: Circuit) -> bool:
    """Whether its fuse is one of the fuse block's."""
    return (
        circuit.family == "blade"
        and circuit.fuse_with is None
        and circuit.need.begins in {BAR, LOW_BAR}
    )


def bar_stud_mm(area_mm2: float | None) -> float:
    """Stud of a bar for a cable [mm, judgement]: M8, M6 or a screw of M4."""
    if area_mm2 is None or area_mm2 >= THICK_MM2:
        return 8.0
    return 6.0 if area_mm2 >= MEDIUM_MM2 else 4.0


def fuse_stud_mm(family: Family, size_a: float | None) -> float:
    """Stud of a fuse's holder [mm, typical]."""
    if family == "strip":
        return 5.0 if (size_a or 0.0) <= STRONG_A else 8.0
    return 10.0 if family == "class_t" and (size_a or 0.0) > STRONG_A else 8.0


def post_stud_mm(battery_ah: float) -> float:
    """Stud of a battery's post [mm, typical]; 0 is a push-on tab of 6.3 mm."""
    if battery_ah < SMALL_AH:
        return 0.0
    return 6.0 if battery_ah < MIDDLE_AH else 8.0


def _stud(at: str, stud_mm: float) -> Terminal:
    return Terminal(at, "lug", stud_mm) if stud_mm else Terminal(at, "push_on")


def _clamp(at: str, area_mm2: float | None) -> Terminal:
    """A screw clamp where it takes the cable, else a stud."""
    if area_mm2 is not None and area_mm2 > 1.05 * CLAMP_MOST_MM2:
        return Terminal(at, "lug", 8.0)
    return Terminal(at, "ferrule")


def _fuse(circuit: Circuit, word: str = "") -> list[Terminal]:
    """Its own fuse or breaker, where its conductor is cut for one; blades sit in their block."""
    if circuit.protection == "none" or circuit.family is None or circuit.fuse_with is not None:
        return []
    if circuit.protection == "breaker":
        return [_clamp("breaker", circuit.cable_mm2)]
    at = word or "fuse"
    if circuit.family == "blade":
        return [] if in_block(circuit) else [Terminal(f"in-line {at}", "contact")]
    return [Terminal(at, "lug", fuse_stud_mm(circuit.family, circuit.fuse_a))]


def _plug(circuit: Circuit) -> list[Terminal]:
    part = CONNECTORS[circuit.connector]
    passes = part.hole_mm and circuit.connector not in {"gland", "socket", "usb"}
    return [Terminal(part.name, "contact")] if passes else []


def _isolator(circuit: Circuit) -> list[Terminal]:
    strong = (circuit.fuse_a or circuit.carries_a) > STRONG_A
    return [Terminal("isolator", "lug", 10.0 if strong else 8.0)] if circuit.disconnect else []


def _bar(bar: str, circuit: Circuit) -> Terminal:
    return Terminal(bar, "lug", bar_stud_mm(circuit.cable_mm2))


def _run(circuit: Circuit, sign: Sign, stations: list[Terminal]) -> Iterator[Piece]:
    for begins, ends in pairwise(stations):
        yield Piece(circuit.number, sign, circuit.cable_mm2, begins, ends)


def _pieces(run: Run, board: Board, c: Circuit) -> Iterator[Piece]:
    role = c.need.role
    if role in {"battery", "second"}:
        yield from _of_bank(run, board, c)
    elif role in {"panel", "feed"}:
        yield from _of_lead(run, c)
    elif role in {"charge", "low"}:
        begins = _clamp(c.need.begins, c.cable_mm2)
        bar = BAR if role == "charge" else LOW_BAR
        fuse = _fuse(c)
        yield from _run(c, "+", [begins, *fuse, _bar(bar, c)])
        yield from _run(c, "-", [begins, _bar(MINUS_BAR, c)])
    else:
        yield from _of_use(c)


def _of_bank(run: Run, board: Board, c: Circuit) -> Iterator[Piece]:
    first = c.need.role == "battery"
    bank = run.case.bank if first or run.case.second is None else run.case.second.bank
    post = _stud("battery post" if first else "second bank's post", post_stud_mm(bank.battery_ah))
    joint = Terminal("joint", "lug", 10.0 if c.carries_a > STRONG_A else 8.0)
    own = []
    if c.post_family is not None:
        own = [Terminal("post fuse", "lug", fuse_stud_mm(c.post_family, c.post_fuse_a))]
    for _ in range(c.need.posts if c.need.posts > 1 else 0):
        yield from _run(c, "+", [post, *own, joint])
        yield from _run(c, "-", [post, joint])
    start = joint if c.need.posts > 1 else post
    far = [] if first else [*_plug(c), *_fuse(c, "fuse at the bar")]
    yield from _run(c, "+", [start, *_fuse(c, "main fuse"), *_isolator(c), *far, _bar(BAR, c)])
    strong = (c.fuse_a or c.carries_a) > STRONG_A
    shunt = [Terminal("shunt", "lug", 10.0 if strong else 8.0)]
    counted = first and board.wiring.shunt
    minus = [start, *(shunt if counted else []), *([] if first else _plug(c)), _bar(MINUS_BAR, c)]
    yield from _run(c, "-", minus)
    if first and any(in_block(o) and o.need.begins == BAR for o in board.circuits):
        block = Terminal(BLOCK, "lug", bar_stud_mm(c.cable_mm2))
        yield Piece(c.number, "+", c.cable_mm2, _bar(BAR, c), block)


def _of_lead(run: Run, c: Circuit) -> Iterator[Piece]:
    """From panels or the vehicle, to a charger, to the bar or to a unit."""
    at_bar = c.need.ends == BAR
    if c.need.role == "panel":
        begins, at_source = Terminal("panels", "contact"), []
        in_box = _fuse(c)
        minus_box = in_box if c.protection == "breaker" else []
    else:
        relay = any(isinstance(s, Relay) and f"feed-{s.key}" == c.key for s in run.case.vehicle)
        begins = Terminal("starter battery", "lug", 8.0)
        at_source = [*_fuse(c, "fuse"), *([Terminal("relay", "lug", 6.0)] if relay else [])]
        in_box = _fuse(c, "fuse at the bar") if c.fuses > 1 else []
        minus_box = []
    ends = _bar(BAR, c) if at_bar else _clamp(c.need.ends, c.cable_mm2)
    minus_ends = _bar(MINUS_BAR, c) if at_bar else ends
    yield from _run(c, "+", [begins, *at_source, *_plug(c), *in_box, ends])
    yield from _run(c, "-", [begins, *_plug(c), *minus_box, minus_ends])


def _of_use(c: Circuit) -> Iterator[Piece]:
    role = c.need.role
    if c.connector in {"socket", "usb"}:
        ends = Terminal(c.need.ends, "push_on")
    elif role in OUTLETS:
        ends = Terminal(CONNECTORS[c.connector].name, "contact")
    elif role == "inverter":
        ends = Terminal("inverter", "lug", 8.0)
    else:
        ends = _clamp(c.need.ends, c.cable_mm2)
    if in_block(c):
        plus = [Terminal(BLOCK if c.need.begins == BAR else LOW_BAR, "lug", 4.0)]
    elif c.need.begins in {BAR, LOW_BAR}:
        plus = [_bar(c.need.begins, c), *_fuse(c)]
    elif c.need.output:
        # Many controllers switch the negative: both leads stay on their own terminals.
        clamp = _clamp(c.need.begins, c.cable_mm2)
        yield from _run(c, "+", [clamp, *_fuse(c), ends])
        yield from _run(c, "-", [clamp, ends])
        return
    else:
        plus = [Terminal("main fuse", "lug", 8.0), *_fuse(c)]
    yield from _run(c, "+", [*plus, ends])
    yield from _run(c, "-", [_bar(MINUS_BAR, c), ends])


def stud_text(end: Terminal) -> str:
    """What is crimped on a conductor's end, in a few letters."""
    if end.ending == "lug":
        return f"M{end.stud_mm:g} lug"
    return {"ferrule": "ferrule", "push_on": "push-on", "contact": "contact"}[end.ending]
