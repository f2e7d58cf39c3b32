"""What protects: fuses with spares, holders, blocks, bars, isolators."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from math import ceil

from oddkettle.core.construction.parts import catalogue as cat
from oddkettle.core.construction.parts.catalogue import Article, Bulk
from oddkettle.core.construction.wiring.circuits import BAR, LOW_BAR, Board, Circuit
from oddkettle.core.construction.wiring.fuses import FAMILIES
from oddkettle.core.construction.wiring.sizing import highest_v
from oddkettle.core.construction.wiring.terminals import MINUS_BAR, in_block, on_bar, pieces_of
from oddkettle.core.simulation.own_wiring import Family
from oddkettle.core.simulation.run import Run

SPARES = {"blade": 2, "strip": 1, "terminal": 1, "class_t": 1, "breaker": 0}

Fuse = tuple[Family, float]


def protection_parts(run: Run, board: Board) -> Iterator[Article]:
    """Every article that protects, or that something protected is bolted to."""
    yield from _lacking(board)
    fuses = _fuses(board)
    for (family, size), circuits in sorted(fuses.items()):
        name, count = FAMILIES[family].name, len(circuits)
        yield Article(
            f"fuse:{family}-{size:g}",
            f"{name[0].upper()}{name[1:]}, {size:g} A, {_rating(board, family, circuits)}",
            "protection",
            count,
            cat.FUSE_EURO[family],
            cat.FUSE_KG[family],
        )
        if SPARES[family]:
            yield Article(
                f"spare:{family}-{size:g}",
                f"Spare: {name}, {size:g} A",
                "protection",
                SPARES[family],
                cat.FUSE_EURO[family],
                cat.FUSE_KG[family],
            )
    yield from _strings(board)
    yield from _holders(board, fuses)
    if run.case.unit is None:
        yield from _bolted(run, board)


def _fuses(board: Board) -> dict[Fuse, list[Circuit]]:
    """For each size of a family, the circuits that want one; twice where it sits at both ends."""
    found: dict[Fuse, list[Circuit]] = {}
    for c in board.circuits:
        if c.family is not None and c.fuse_a is not None and c.fuse_with is None:
            found.setdefault((c.family, c.fuse_a), []).extend([c] * c.fuses)
        if c.post_family is not None and c.post_fuse_a is not None:
            found.setdefault((c.post_family, c.post_fuse_a), []).extend([c] * c.need.posts)
    return {fuse: circuits for fuse, circuits in found.items() if circuits}


def _rating(board: Board, family: Family, circuits: list[Circuit]) -> str:
    """What its label must say besides amps: volts, and what it breaks there."""
    volts = max(highest_v(board, c) for c in circuits)
    breaks = FAMILIES[family].breaks_a(volts)
    poles = 2 if any(c.need.role == "panel" for c in circuits) else 1
    plain = f", non-polarised, {poles}-pole" if family == "breaker" else ""
    return f"at least {ceil(volts)} V DC{plain}, breaks {breaks / 1000:g} kA there"


def _lacking(board: Board) -> Iterator[Article]:
    """What would have to be there and cannot be bought: a list without it would look whole."""
    for c in board.circuits:
        if c.trouble:
            what = "fuse" if c.fuse_a is None else "cable"
            yield Article(
                f"lacks:{c.key}",
                f"No {what} suits circuit {c.number}, {c.need.name}",
                "protection",
                0,
                0.0,
                0.0,
                lacks=c.trouble,
            )
        if c.need.posts > 1 and c.post_family is None:
            yield Article(
                f"lacks:posts-{c.key}",
                f"No fuse suits the posts of circuit {c.number}",
                "protection",
                0,
                0.0,
                0.0,
                lacks=f"None here breaks what {c.need.posts - 1} batteries feed into a failed one.",
            )


def _strings(board: Board) -> Iterator[Article]:
    strings: Counter[tuple[float, int]] = Counter()
    for c in board.circuits:
        if c.string_fuse_a is not None:
            volts = ceil(c.need.most_v or c.need.volts)
            strings[c.string_fuse_a, volts] += ceil(c.need.strings)
    for (size, volts), count in sorted(strings.items()):
        yield Article(
            f"fuse:string-{size:g}",
            f"String fuse for panels, in line, {size:g} A, at least {volts} V DC",
            "protection",
            count,
            cat.STRING_FUSE_EURO,
            cat.STRING_FUSE_KG,
        )


def _holders(board: Board, fuses: dict[Fuse, list[Circuit]]) -> Iterator[Article]:
    """Holders by family; a blade that is in no block sits in a holder in its line."""
    holders: Counter[Family] = Counter()
    for (family, _), circuits in fuses.items():
        holders[family] += len(circuits)
    away = _away(board)
    for family, count in holders.items():
        if not cat.HOLDER_EURO[family]:
            continue
        for where, here in ((False, count - away[family]), (True, away[family])):
            if here > 0:
                yield Article(
                    f"holder:{family}" + ("-away" if where else ""),
                    f"Holder for a {FAMILIES[family].name}, covered"
                    + (", at the other battery" if where else ""),
                    "protection",
                    here,
                    cat.HOLDER_EURO[family],
                    0.08,
                    bulk=cat.MAIN_FUSE_BULK if family != "strip" and not where else None,
                    clear_mm=10.0,
                    inside=not where,
                )
    in_line = sum(
        c.fuses
        for c in board.circuits
        if c.family == "blade" and c.fuse_a is not None and c.fuse_with is None and not in_block(c)
    )
    if in_line:
        yield Article(
            "holder:in-line",
            "In-line holder for a blade fuse, splash-proof",
            "protection",
            in_line,
            cat.IN_LINE_EURO,
            0.02,
        )


def _away(board: Board) -> Counter[Family]:
    """Holders that sit at a starter's or a second bank's battery, by family: not in the box."""
    found: Counter[Family] = Counter()
    for c in board.circuits:
        if c.need.role not in {"feed", "second"}:
            continue
        if c.family is not None and c.fuse_a is not None and c.fuses:
            found[c.family] += 1
        if c.post_family is not None and c.post_fuse_a is not None:
            found[c.post_family] += c.need.posts
    return found


def _bolted(run: Run, board: Board) -> Iterator[Article]:
    """Blocks, bars and isolators."""
    for bar, key, word in ((BAR, "block", "Fuse block"), (LOW_BAR, "block:low", "12 V fuse block")):
        ways = sum(1 for c in board.circuits if in_block(c) and c.need.begins == bar)
        if ways:
            size = next((w for w in cat.BLOCK_WAYS if w >= ways), ways)
            yield Article(
                key,
                f"{word}, {size} ways, 30 A a way, with cover",
                "protection",
                1,
                cat.BLOCK_TAG.euro(size),
                cat.BLOCK_TAG.kg(size),
                bulk=Bulk(90.0 + 10.0 * size, 85.0, 40.0),
                clear_mm=10.0,
            )
    pieces = pieces_of(run, board)
    plus, minus = len(on_bar(pieces, BAR)), len(on_bar(pieces, MINUS_BAR))
    main = board.of("battery")
    amps = 0.0 if main is None else main.fuse_a or main.carries_a
    yield Article(
        "bars",
        f"Positive bar of {plus} studs and negative bar of {minus}, at least {amps:.0f} A, covered",
        "protection",
        1,
        cat.BARS_EURO,
        cat.BARS_KG,
        bulk=cat.BARS_BULK,
        clear_mm=10.0,
    )
    for key, c in (("isolator", main), ("isolator:second", board.of("second"))):
        if c is None or not c.disconnect:
            continue
        amps = c.fuse_a or c.carries_a
        yield Article(
            key,
            f"Battery isolator, at least {amps:.0f} A for hours, {ceil(board.most_v)} V DC, "
            "its key captive",
            "protection",
            1,
            cat.ISOLATOR_TAG.euro(amps),
            cat.ISOLATOR_TAG.kg(amps),
            inside=key == "isolator",
        )
