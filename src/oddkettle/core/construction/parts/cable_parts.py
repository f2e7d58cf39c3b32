"""Cable by size, colour and length, and all that is crimped on, counted from the drawing."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from math import ceil

from oddkettle.core.construction.parts import catalogue as cat
from oddkettle.core.construction.parts import prices
from oddkettle.core.construction.parts.catalogue import Article
from oddkettle.core.construction.wiring.cable import size_text
from oddkettle.core.construction.wiring.circuits import BAR, Board
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.sizing import highest_v
from oddkettle.core.construction.wiring.terminals import (
    LINK_M,
    MEDIUM_MM2,
    Terminal,
    in_block,
    pieces_of,
)
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.quantity import celsius

SHRINK_M = 0.04
"""Heat-shrink on each crimp [m]."""
BOUGHT_BY_M = 0.5
SHRINK_MM = ((2.5, 6.0), (6.0, 9.0), (16.0, 12.0), (35.0, 19.0), (120.0, 28.0))
"""Up to such a conductor [mm2], heat-shrink of such a width before it shrinks [mm, typical]."""
CLAMP_EVERY_M = 0.3
"""Cables are held so often along their way [textbook: 300 to 450 mm]."""
INSULATION_V = (60, 300, 600, 1000)
"""Voltages that single cables are sold for [V, standard series]."""
POST_BOOTS = 2
POST_LEAD_M = 0.3
"""From each battery in parallel to where they join, all alike [m, judgement]."""


def cable_metres(board: Board) -> dict[float, float]:
    """Metres of one pole by size [mm2], without waste: as much red as black.

    The link to the fuse block is the main cable's, and red only.
    """
    metres: dict[float, float] = {}
    for circuit in board.circuits:
        if circuit.cable_mm2 is not None:
            size = circuit.cable_mm2
            # Batteries in parallel: a lead of the same length from each to the joint.
            posts = circuit.need.posts if circuit.need.posts > 1 else 0
            metres[size] = metres.get(size, 0.0) + circuit.run_m + posts * POST_LEAD_M
    return dict(sorted(metres.items()))


def _insulation_v(board: Board, size: float) -> int:
    """What the insulation of a size's cable is sold for [V]: a cold array may ask for more."""
    volts = max(highest_v(board, c) for c in board.circuits if c.cable_mm2 == size)
    return next((most for most in INSULATION_V if volts <= most), INSULATION_V[-1])


def _link_m(board: Board, size: float) -> float:
    main = board.of("battery")
    linked = any(in_block(c) and c.need.begins == BAR for c in board.circuits)
    return LINK_M if main is not None and main.cable_mm2 == size and linked else 0.0


def cable_parts(run: Run, board: Board, waste: float) -> Iterator[Article]:
    """Red and black by size. waste : share that is bought beyond what is needed, 0..1."""
    for size, metres in cable_metres(board).items():
        text = size_text(size, board.wiring.series)
        for colour, more in (("red", _link_m(board, size)), ("black", 0.0)):
            bought = ceil((metres + more) * (1.0 + waste) / BOUGHT_BY_M - 1e-9) * BOUGHT_BY_M
            yield Article(
                f"cable:{size:.3g}-{colour}",
                f"Cable, single, fine-stranded copper, {text}, {colour}, insulation for "
                f"{celsius(90)} or more, {_insulation_v(board, size)} V",
                "cable",
                bought,
                cat.CABLE_FIXED_EURO_M + prices.CABLE_EURO_PER_MM2_M * size,
                prices.CABLE_KG_PER_MM2_M * size,
                unit="m",
            )


def terminal_parts(run: Run, board: Board) -> Iterator[Article]:
    """Lugs by cable and stud, other ends, shrink by width, boots, clamps, labels, plugs."""
    ends: Counter[tuple[float, Terminal]] = Counter()
    shrink: Counter[float] = Counter()
    for piece in pieces_of(run, board):
        for end in (piece.begins, piece.ends):
            if piece.area_mm2 is not None:
                ends[piece.area_mm2, Terminal("", end.ending, end.stud_mm)] += 1
                shrink[_shrink_mm(piece.area_mm2)] += 1
    yield from _ends(board, ends)
    for wide, count in sorted(shrink.items()):
        metres = ceil(count * SHRINK_M / BOUGHT_BY_M) * BOUGHT_BY_M
        yield Article(
            f"shrink:{wide:g}",
            f"Heat-shrink with glue, {wide:g} mm, red and black",
            "terminals",
            metres,
            cat.SHRINK_EURO_M,
            cat.SHRINK_KG_M,
            unit="m",
        )
    yield from _small(run, board)
    plugs = Counter(c.connector for c in board.circuits if CONNECTORS[c.connector].hole_mm)
    # A mains lead comes in through a gland of its own.
    if run.case.mains and run.case.unit is None:
        plugs["gland"] += len(run.case.mains)
    for key, count in sorted(plugs.items()):
        part = CONNECTORS[key]
        yield Article(
            f"plug:{key}",
            f"{part.name[0].upper()}{part.name[1:]}, {part.rating_a:g} A for hours, "
            f"up to {size_text(part.most_mm2, board.wiring.series)}"
            if key != "gland"
            else "Cable gland with its nut and seal",
            "terminals",
            count,
            part.euro,
            part.kg,
        )


def _ends(board: Board, ends: Counter[tuple[float, Terminal]]) -> Iterator[Article]:
    for (size, end), count in sorted(ends.items(), key=lambda one: (one[0][0], str(one[0][1]))):
        text = size_text(size, board.wiring.series)
        if end.ending == "lug":
            thin = size < MEDIUM_MM2
            yield Article(
                f"lug:{size:.3g}-M{end.stud_mm:g}",
                f"{'Crimped ring' if thin else 'Tubular lug'}, {text}, M{end.stud_mm:g}",
                "terminals",
                count,
                0.3 + cat.LUG_EURO_PER_MM2 * size,
                cat.LUG_KG_PER_MM2 * size,
            )
        elif end.ending in {"ferrule", "push_on"}:
            word = "Ferrule" if end.ending == "ferrule" else "Push-on, 6.3 mm, insulated"
            yield Article(
                f"{end.ending}:{size:.3g}",
                f"{word}, {text}",
                "terminals",
                count,
                cat.CRIMP_EURO,
                cat.CRIMP_KG,
            )


def _shrink_mm(area_mm2: float) -> float:
    return next((wide for most, wide in SHRINK_MM if area_mm2 <= most), SHRINK_MM[-1][1])


def _small(run: Run, board: Board) -> Iterator[Article]:
    """What is forgotten: boots, clamps, grommets, labels, links."""
    circuits = [c for c in board.circuits if c.cable_mm2 is not None]
    if not circuits:
        return
    if run.case.unit is None:
        banks = [run.case.bank] + ([run.case.second.bank] if run.case.second else [])
        boots = sum(POST_BOOTS * bank.series * bank.parallel for bank in banks)
        yield Article(
            "boots",
            "Boot for a battery post or stud, red and black",
            "terminals",
            boots,
            cat.BOOT_EURO,
            cat.BOOT_KG,
        )
        links = sum((bank.series - 1) * bank.parallel for bank in banks)
        main = board.of("battery")
        if links and main is not None and main.cable_mm2 is not None:
            text = size_text(main.cable_mm2, board.wiring.series)
            yield Article(
                "links",
                f"Link from battery to battery, {text}, with lugs",
                "terminals",
                links,
                cat.LINK_EURO,
                cat.LINK_KG,
            )
    clamps = sum(max(ceil(c.run_m / CLAMP_EVERY_M) - 1, 1) for c in circuits)
    yield Article(
        "clamps",
        "Clamp or tie with a screw base",
        "terminals",
        clamps,
        cat.CLAMP_EURO,
        cat.CLAMP_KG,
    )
    yield Article(
        "labels",
        "Label with the circuit's number, both ends",
        "terminals",
        2 * len(circuits),
        cat.LABEL_EURO,
        0.0,
    )
