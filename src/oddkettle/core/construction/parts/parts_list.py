"""What to buy for a box: parts, cable by size and length, fuses with spares, terminals."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil

from oddkettle.core.construction.parts import catalogue as cat
from oddkettle.core.construction.parts import prices
from oddkettle.core.construction.parts.catalogue import Article, Bulk
from oddkettle.core.construction.wiring.cable import size_text
from oddkettle.core.construction.wiring.circuits import COMBINED, Board
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.fuses import FAMILIES
from oddkettle.core.construction.wiring.requirements import inputs_of_one
from oddkettle.core.construction.wiring.sizing import highest_v
from oddkettle.core.own_wiring import Family
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.dcdc import DcDc

LUGS_FROM_MM2 = 6.0
"""Cables from here on get ring lugs crimped with a proper tool; thinner ones small crimps."""
SHRINK_M = 0.04
POST_ROOM_MM, LUG_MM = 40.0, 20.0
"""Above a battery: room for boots and fingers; what a lug on its post stands out [judgement]."""
BOUGHT_BY_M = 0.5
SPARES = {"blade": 2, "strip": 1, "terminal": 1, "class_t": 1, "breaker": 0}


@dataclass(frozen=True)
class Known:
    """What its owner knows of a part: price [euro] and weight [kg] of one, its size [mm]."""

    part: str
    owned: bool = False
    euro: float | None = None
    kg: float | None = None
    length_mm: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None


@dataclass(frozen=True)
class Line:
    """A line of the parts list; prices are of all of it [euro], the weight too [kg]."""

    article: Article
    owned: bool
    euro_low: float
    euro_high: float
    kg: float
    price_known: bool
    weight_known: bool
    size_known: bool


@dataclass(frozen=True)
class Totals:
    """Sums of a list: to buy, and as if nothing were owned [euro]; all of it [kg].

    `carried_kg` leaves out panels and what stays in the vehicle.
    """

    buy_low: float
    buy_high: float
    all_low: float
    all_high: float
    kg: float
    carried_kg: float


def list_parts(
    run: Run, board: Board, material: str, empty_kg: float, waste: float, known: tuple[Known, ...]
) -> tuple[Line, ...]:
    """The whole list, in the order of the groups.

    waste : share of cable that is bought beyond what is needed, 0..1
    """
    by_key = {k.part: k for k in known}
    return tuple(
        _line(article, by_key.get(article.key))
        for article in _articles(run, board, material, empty_kg, waste)
    )


def totals_of(lines: tuple[Line, ...]) -> Totals:
    """What a list comes to."""
    buy = [line for line in lines if not line.owned]
    return Totals(
        buy_low=sum(line.euro_low for line in buy),
        buy_high=sum(line.euro_high for line in buy),
        all_low=sum(line.euro_low for line in lines),
        all_high=sum(line.euro_high for line in lines),
        kg=sum(line.kg for line in lines),
        carried_kg=sum(line.kg for line in lines if line.article.inside),
    )


def _line(article: Article, known: Known | None) -> Line:
    known = known or Known(article.key)
    low, high = cat.PRICE_LOW * article.euro, cat.PRICE_HIGH * article.euro
    if known.euro is not None:
        low = high = known.euro
    sized = None not in (known.length_mm, known.width_mm, known.height_mm)
    bulk = article.bulk
    if bulk is not None:
        bulk = Bulk(
            known.length_mm or bulk.length_mm,
            known.width_mm or bulk.width_mm,
            known.height_mm or bulk.height_mm,
        )
    kg = article.kg if known.kg is None else known.kg
    return Line(
        article=_with(article, bulk, kg),
        owned=known.owned,
        euro_low=low * article.count,
        euro_high=high * article.count,
        kg=kg * article.count,
        price_known=known.euro is not None,
        weight_known=known.kg is not None,
        size_known=sized,
    )


def _with(article: Article, bulk: Bulk | None, kg: float) -> Article:
    return replace(article, bulk=bulk, kg=kg)


def _articles(
    run: Run, board: Board, material: str, empty_kg: float, waste: float
) -> Iterator[Article]:
    ready = run.case.unit is not None
    if ready:
        wh = run.case.bank.nominal_wh
        yield Article(
            "unit", "Ready-made unit", "battery", 1, prices.READY_MADE_PER_KWH * wh / 1000,
            prices.READY_MADE_KG_PER_KWH * wh / 1000,
        )  # fmt: skip
    else:
        yield from _batteries(run, board)
    yield from _chargers(run, ready)
    yield from _panels(run)
    if not ready:
        yield from _users(run, board)
    yield from _protection(board, ready)
    yield from _cables(board, waste)
    yield from _terminals(run, board)
    if not ready:
        yield Article("enclosure", f"Box or case, {material}", "enclosure", 1,
                      cat.ENCLOSURE_EURO[material], empty_kg)  # fmt: skip


def _batteries(run: Run, board: Board) -> Iterator[Article]:
    second = run.case.second
    pairs = [("battery", "Battery", run.case.bank)]
    if second is not None:
        pairs.append(("second", "Second bank's battery", second.bank))
    for key, word, bank in pairs:
        count = bank.series * bank.parallel
        euro = bank.chemistry.euro(bank.nominal_wh) / count
        each_v = bank.nominal_v / bank.series
        yield Article(
            key, f"{word}, {bank.chemistry.name}, {bank.battery_ah:g} Ah, {each_v:.3g} V",
            "battery", count, euro, bank.mass_kg / count, bulk=cat.battery_bulk(bank),
            clear_mm=8.0, above_mm=max(POST_ROOM_MM, LUG_MM + _bend_mm(board, key)), low=True,
            inside=key == "battery",
        )  # fmt: skip


def _bend_mm(board: Board, key: str) -> float:
    """Room that the cable of a circuit wants to turn away from its lug [mm]."""
    circuit = board.of(key)
    if circuit is None or circuit.cable_mm2 is None:
        return 0.0
    return cat.bend_mm(circuit.cable_mm2)


def _chargers(run: Run, ready: bool) -> Iterator[Article]:
    if ready:
        return
    inside = inputs_of_one(run)
    if inside:
        amps = run.case.joining.limit_a
        yield Article(
            "charger:combined", f"{COMBINED}, {len(inside)} inputs, {amps:g} A", "charging", 1,
            prices.COMBINED.euro(amps), prices.COMBINED.kg(amps), bulk=cat.dcdc_bulk(1.3 * amps),
            clear_mm=25.0, above_mm=40.0, hot=True,
        )  # fmt: skip
    for array in run.case.sun:
        amps, kind = array.controller.limit_a, array.controller.kind
        if kind == "none" or array.key in inside:
            continue
        tag, bulk = (
            (prices.TRACKING, cat.tracking_bulk(amps))
            if kind == "tracking"
            else (prices.PWM, cat.pwm_bulk(amps))
        )
        yield Article(
            f"charger:{array.key}", f"{array.name}, {kind} controller, {amps:g} A", "charging", 1,
            tag.euro(amps), tag.kg(amps), bulk=bulk, clear_mm=25.0, above_mm=40.0, hot=True,
        )  # fmt: skip
    for source in run.case.vehicle:
        if source.key in inside:
            continue
        if isinstance(source, DcDc):
            amps = source.limit_a
            yield Article(
                f"charger:{source.key}", f"{source.name}, {amps:g} A", "charging", 1,
                prices.DCDC.euro(amps), prices.DCDC.kg(amps), bulk=cat.dcdc_bulk(amps),
                clear_mm=25.0, above_mm=40.0, hot=True,
            )  # fmt: skip
        else:
            yield Article(
                f"charger:{source.key}", source.name, "charging", 1, prices.RELAY.euro(60.0),
                prices.RELAY.kg(60.0), bulk=cat.RELAY_BULK, inside=False,
            )  # fmt: skip
    for charger in run.case.mains:
        if charger.key in inside:
            continue
        yield Article(
            f"charger:{charger.key}", f"{charger.name}, {charger.limit_a:g} A", "charging", 1,
            prices.MAINS.euro(charger.limit_a), prices.MAINS.kg(charger.limit_a),
            bulk=cat.mains_bulk(charger.limit_a), clear_mm=25.0, above_mm=40.0, hot=True,
        )  # fmt: skip


def _panels(run: Run) -> Iterator[Article]:
    for array in run.case.sun:
        for n, panel in enumerate(array.panels, start=1):
            word = "folding panel" if panel.portable else "panel"
            yield Article(
                f"panel:{array.key}.{n}", f"{array.name}, {word}, {panel.power_w:g} W", "panels",
                panel.count, prices.PANEL.euro(panel.power_w), prices.PANEL.kg(panel.power_w),
                inside=False,
            )  # fmt: skip


def _users(run: Run, board: Board) -> Iterator[Article]:
    inverter = run.case.inverter
    if inverter is not None:
        watts = inverter.rating_w
        yield Article(
            "inverter", f"Inverter, {watts:g} W", "use", 1, prices.INVERTER.euro(watts),
            prices.INVERTER.kg(watts), bulk=cat.inverter_bulk(watts),
            clear_mm=max(30.0, _bend_mm(board, "inverter")), above_mm=50.0, hot=True,
        )  # fmt: skip
    if run.case.heater is not None:
        yield Article("heater", f"Heater pads, {run.case.heater.power_w:g} W", "use", 1, 35.0, 0.3)
    if run.case.wiring.shunt:
        yield Article(
            "shunt", "Shunt with monitor", "use", 1, cat.MONITOR, cat.SHUNT_KG,
            bulk=cat.SHUNT_BULK, clear_mm=10.0,
        )  # fmt: skip


def _rating(board: Board, family: Family, size: float) -> str:
    """What its label must say besides amps: volts, and what it breaks there."""
    volts = max(
        highest_v(board, c) for c in board.circuits if (c.family, c.fuse_a) == (family, size)
    )
    breaks = FAMILIES[family].breaks_a(volts)
    plain = ", non-polarised" if family == "breaker" else ""
    return f"at least {ceil(volts)} V DC{plain}, breaks {breaks / 1000:g} kA there"


def _lacking(board: Board) -> Iterator[Article]:
    """What would have to be there and cannot be bought: a list without it would look whole."""
    for c in board.circuits:
        if c.trouble:
            what = "fuse" if c.fuse_a is None else "cable"
            yield Article(f"lacks:{c.key}", f"No {what} suits circuit {c.number}, {c.need.name}",
                          "protection", 0, 0.0, 0.0, lacks=c.trouble)  # fmt: skip


def _protection(board: Board, ready: bool) -> Iterator[Article]:
    yield from _lacking(board)
    own = [c for c in board.circuits if c.fuse_a is not None and c.fuse_with is None]
    fuses: Counter[tuple[Family, float]] = Counter()
    holders: Counter[Family] = Counter()
    for c in own:
        if c.family is not None and c.fuse_a is not None:
            fuses[c.family, c.fuse_a] += c.fuses
            if cat.HOLDER_EURO[c.family]:
                holders[c.family] += c.fuses
    for (family, size), count in sorted(fuses.items()):
        name = FAMILIES[family].name
        yield Article(
            f"fuse:{family}-{size:g}",
            f"{name[0].upper()}{name[1:]}, {size:g} A, {_rating(board, family, size)}",
            "protection", count, cat.FUSE_EURO[family], cat.FUSE_KG[family],
        )  # fmt: skip
        if SPARES[family]:
            yield Article(
                f"spare:{family}-{size:g}", f"Spare: {name}, {size:g} A", "protection",
                SPARES[family], cat.FUSE_EURO[family], cat.FUSE_KG[family],
            )  # fmt: skip
    strings: Counter[float] = Counter()
    for c in board.circuits:
        if c.string_fuse_a is not None:
            strings[c.string_fuse_a] += ceil(c.need.strings)
    for size, count in sorted(strings.items()):
        yield Article(f"fuse:string-{size:g}", f"String fuse for panels, in line, {size:g} A",
                      "protection", count, cat.STRING_FUSE_EURO, cat.STRING_FUSE_KG)  # fmt: skip
    for family, count in holders.items():
        yield Article(
            f"holder:{family}", f"Holder for a {FAMILIES[family].name}", "protection", count,
            cat.HOLDER_EURO[family], 0.08,
            bulk=cat.MAIN_FUSE_BULK if family != "strip" else None, clear_mm=10.0,
        )  # fmt: skip
    if ready:
        return
    ways = sum(1 for c in own if c.family == "blade")
    if ways:
        size = next((w for w in cat.BLOCK_WAYS if w >= ways), ways)
        yield Article(
            "block", f"Fuse block, {size} ways", "protection", 1, cat.BLOCK_TAG.euro(size),
            cat.BLOCK_TAG.kg(size), bulk=Bulk(90.0 + 10.0 * size, 85.0, 40.0), clear_mm=10.0,
        )  # fmt: skip
    yield Article("bars", "Positive and negative bar", "protection", 1, cat.BARS_EURO, cat.BARS_KG,
                  bulk=cat.BARS_BULK, clear_mm=10.0)  # fmt: skip
    main = board.of("battery")
    if main is not None:
        amps = main.fuse_a or main.carries_a
        yield Article(
            "isolator", f"Battery isolator, at least {amps:.0f} A", "protection", 1,
            cat.ISOLATOR_TAG.euro(amps), cat.ISOLATOR_TAG.kg(amps),
        )  # fmt: skip


def cable_metres(board: Board) -> dict[float, float]:
    """Metres of conductor by size [mm2], both ways of each run, without waste."""
    metres: dict[float, float] = {}
    for circuit in board.circuits:
        if circuit.cable_mm2 is not None:
            size = circuit.cable_mm2
            metres[size] = metres.get(size, 0.0) + 2.0 * circuit.run_m
    return dict(sorted(metres.items()))


def _cables(board: Board, waste: float) -> Iterator[Article]:
    for size, metres in cable_metres(board).items():
        bought = ceil(metres * (1.0 + waste) / BOUGHT_BY_M - 1e-9) * BOUGHT_BY_M
        text = size_text(size, board.wiring.series)
        yield Article(
            f"cable:{size:.3g}", f"Cable, single flexible copper, {text}", "cable", bought,
            cat.CABLE_FIXED_EURO_M + prices.CABLE_EURO_PER_MM2_M * size,
            prices.CABLE_KG_PER_MM2_M * size, unit="m",
        )  # fmt: skip


def _terminals(run: Run, board: Board) -> Iterator[Article]:
    ends: Counter[float] = Counter()
    for circuit in board.circuits:
        if circuit.cable_mm2 is not None:
            ends[circuit.cable_mm2] += 4
    small = sum(count for size, count in ends.items() if size < LUGS_FROM_MM2)
    for size, count in sorted(ends.items()):
        if size >= LUGS_FROM_MM2:
            text = size_text(size, board.wiring.series)
            yield Article(
                f"lug:{size:.3g}", f"Ring lug, {text}", "terminals", count,
                0.3 + cat.LUG_EURO_PER_MM2 * size, cat.LUG_KG_PER_MM2 * size,
            )  # fmt: skip
    if small:
        yield Article("crimps", "Small crimps and ferrules", "terminals", small, cat.CRIMP_EURO,
                      cat.CRIMP_KG)  # fmt: skip
    metres = ceil(sum(ends.values()) * SHRINK_M / BOUGHT_BY_M) * BOUGHT_BY_M
    if metres:
        yield Article("shrink", "Heat-shrink with glue, red and black", "terminals", metres,
                      cat.SHRINK_EURO_M, cat.SHRINK_KG_M, unit="m")  # fmt: skip
    plugs = Counter(c.connector for c in board.circuits if CONNECTORS[c.connector].hole_mm)
    # A mains lead comes in through a gland of its own.
    if run.case.mains and run.case.unit is None:
        plugs["gland"] += len(run.case.mains)
    for key, count in sorted(plugs.items()):
        part = CONNECTORS[key]
        yield Article(f"plug:{key}", f"{part.name[0].upper()}{part.name[1:]}", "terminals", count,
                      part.euro, part.kg)  # fmt: skip
