"""What to buy for a box: parts, cable by size and length, fuses with spares, terminals."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from oddkettle.core.construction.parts import catalogue as cat
from oddkettle.core.construction.parts import prices
from oddkettle.core.construction.parts.cable_parts import cable_parts, terminal_parts
from oddkettle.core.construction.parts.catalogue import Article, Bulk
from oddkettle.core.construction.parts.lines import BuiltOf, Known, Line
from oddkettle.core.construction.parts.protection_parts import protection_parts
from oddkettle.core.construction.restraint import STRAPS, strap_n
from oddkettle.core.construction.ventilation import airing_of
from oddkettle.core.construction.wiring.circuits import COMBINED, Board
from oddkettle.core.construction.wiring.requirements import inputs_of_one
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import RELAY_FUSE_A

POST_ROOM_MM, LUG_MM = 40.0, 20.0
"""Above a battery: room for boots and fingers; what a lug on its post stands out [judgement]."""


def list_parts(
    run: Run, board: Board, built: BuiltOf, known: tuple[Known, ...]
) -> tuple[Line, ...]:
    """The whole list, in the order of the groups."""
    by_key = {k.part: k for k in known}
    return tuple(
        _line(article, by_key.get(article.key)) for article in _articles(run, board, built)
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


def _articles(run: Run, board: Board, built: BuiltOf) -> Iterator[Article]:
    ready = run.case.unit is not None
    if ready:
        wh = run.case.bank.nominal_wh
        yield Article(
            "unit",
            "Ready-made unit",
            "battery",
            1,
            prices.READY_MADE_PER_KWH * wh / 1000,
            prices.READY_MADE_KG_PER_KWH * wh / 1000,
        )
    else:
        yield from _batteries(run, board, apart=built.apart)
    yield from _chargers(run, ready)
    if not ready:
        yield from _selector(run)
    yield from _panels(run)
    if not ready:
        yield from _users(run, board)
    yield from protection_parts(run, board)
    yield from cable_parts(run, board, built.waste)
    yield from terminal_parts(run, board)
    if not ready:
        yield from _enclosure(run, board, built)


def _enclosure(run: Run, board: Board, built: BuiltOf) -> Iterator[Article]:
    """The box, its shelves and vents, what holds it, and the battery's own where it has one."""
    material = built.material
    yield Article(
        "enclosure",
        f"Box or case, {material}",
        "enclosure",
        1,
        cat.ENCLOSURE_EURO[material],
        built.empty_kg,
    )
    if built.shelves:
        yield Article(
            "shelf",
            "Shelf on battens, 9 mm, screwed",
            "enclosure",
            built.shelves,
            cat.SHELF_EURO,
            cat.SHELF_KG,
        )
    if built.vents:
        yield Article(
            "vents",
            "Round vent of 60 mm with mesh",
            "enclosure",
            2 * built.vents,
            cat.VENT_EURO,
            cat.VENT_KG,
        )
    battery_kg = run.case.bank.mass_kg
    if built.apart:
        airing = airing_of(run.case.bank)
        aired = f", aired outside, {airing.area_cm2:.0f} cm² low and high" if airing.vents else ""
        yield Article(
            "battery-box",
            f"Box for the battery alone{aired}",
            "enclosure",
            1,
            cat.BATTERY_BOX_EURO,
            cat.BATTERY_BOX_KG,
            inside=False,
        )
    # Weighed without cables and small parts: the straps' spare covers them.
    kg = built.empty_kg + (0.0 if built.apart else battery_kg) + cat.OTHER_KG
    straps = (("straps", "the box", kg), ("straps:battery", "the battery", battery_kg))
    for key, word, held in straps:
        if key == "straps" or built.apart:
            yield Article(
                key,
                f"Strap over {word} with two anchors through solid floor, each strap and "
                f"anchor holding {strap_n(held):.0f} N",
                "enclosure",
                STRAPS,
                cat.STRAP_EURO,
                cat.STRAP_KG,
            )


def _batteries(run: Run, board: Board, *, apart: bool) -> Iterator[Article]:
    second = run.case.second
    pairs = [("battery", "Battery", run.case.bank)]
    if second is not None:
        pairs.append(("second", "Second bank's battery", second.bank))
    for key, word, bank in pairs:
        count = bank.series * bank.parallel
        euro = bank.chemistry.euro(bank.nominal_wh) / count
        each_v = bank.nominal_v / bank.series
        yield Article(
            key,
            f"{word}, {bank.chemistry.name}, {bank.battery_ah:g} Ah, {each_v:.3g} V",
            "battery",
            count,
            euro,
            bank.mass_kg / count,
            bulk=cat.battery_bulk(bank),
            clear_mm=8.0,
            above_mm=max(POST_ROOM_MM, LUG_MM + _bend_mm(board, key)),
            low=True,
            inside=key == "battery" and not apart,
        )


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
            "charger:combined",
            f"{COMBINED}, {len(inside)} inputs, {amps:g} A",
            "charging",
            1,
            prices.COMBINED.euro(amps),
            prices.COMBINED.kg(amps),
            bulk=cat.dcdc_bulk(1.3 * amps),
            clear_mm=25.0,
            above_mm=40.0,
            hot=True,
        )
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
            f"charger:{array.key}",
            f"{array.name}, {kind} controller, {amps:g} A",
            "charging",
            1,
            tag.euro(amps),
            tag.kg(amps),
            bulk=bulk,
            clear_mm=25.0,
            above_mm=40.0,
            hot=True,
        )
    for source in run.case.vehicle:
        if source.key in inside:
            continue
        if isinstance(source, DcDc):
            amps = source.limit_a
            yield Article(
                f"charger:{source.key}",
                f"{source.name}, {amps:g} A",
                "charging",
                1,
                prices.DCDC.euro(amps),
                prices.DCDC.kg(amps),
                bulk=cat.dcdc_bulk(amps),
                clear_mm=25.0,
                above_mm=40.0,
                hot=True,
            )
        else:
            yield Article(
                f"charger:{source.key}",
                source.name,
                "charging",
                1,
                prices.RELAY.euro(RELAY_FUSE_A),
                prices.RELAY.kg(RELAY_FUSE_A),
                bulk=cat.RELAY_BULK,
                inside=False,
            )
    for charger in run.case.mains:
        if charger.key in inside:
            continue
        yield Article(
            f"charger:{charger.key}",
            f"{charger.name}, {charger.limit_a:g} A",
            "charging",
            1,
            prices.MAINS.euro(charger.limit_a),
            prices.MAINS.kg(charger.limit_a),
            bulk=cat.mains_bulk(charger.limit_a),
            clear_mm=25.0,
            above_mm=40.0,
            hot=True,
        )


def _selector(run: Run) -> Iterator[Article]:
    """A switch that lets one source in at a time."""
    if run.case.joining.kind == "selector" and len(run.sources) > 1:
        amps = max(float(source.rating_a) for source in run.sources)
        yield Article(
            "selector",
            f"Selector switch, {len(run.sources)} ways, {amps:.0f} A",
            "charging",
            1,
            prices.SELECTOR.euro(1.0),
            prices.SELECTOR.kg(1.0),
        )


def _panels(run: Run) -> Iterator[Article]:
    for array in run.case.sun:
        for n, panel in enumerate(array.panels, start=1):
            word = "folding panel" if panel.portable else "panel"
            yield Article(
                f"panel:{array.key}.{n}",
                f"{array.name}, {word}, {panel.power_w:g} W",
                "panels",
                panel.count,
                prices.PANEL.euro(panel.power_w),
                prices.PANEL.kg(panel.power_w),
                inside=False,
            )


def _users(run: Run, board: Board) -> Iterator[Article]:
    inverter = run.case.inverter
    if inverter is not None:
        watts = inverter.rating_w
        yield Article(
            "inverter",
            f"Inverter, {watts:g} W",
            "use",
            1,
            prices.INVERTER.euro(watts),
            prices.INVERTER.kg(watts),
            bulk=cat.inverter_bulk(watts),
            clear_mm=max(30.0, _bend_mm(board, "inverter")),
            above_mm=50.0,
            hot=True,
        )
    behind = [outlet for outlet in board.wiring.outlets if outlet.mains]
    if inverter is not None and behind:
        yield Article("rcd", "Residual-current device, 30 mA", "use", 1, cat.RCD, cat.RCD_KG)
        for outlet in behind:
            yield Article(
                f"mains-outlet:{outlet.key}",
                f"Mains outlet, {outlet.name}",
                "use",
                1,
                cat.MAINS_OUTLET,
                cat.MAINS_OUTLET_KG,
            )
    if board.of("converter") is not None and run.case.converter is not None:
        amps = run.case.converter.limit_a
        yield Article(
            "converter",
            f"Step-down converter, {run.case.bank.system_v:g} to 12 V, {amps:g} A",
            "use",
            1,
            prices.CONVERTER.euro(amps),
            prices.CONVERTER.kg(amps),
            bulk=cat.converter_bulk(amps),
            clear_mm=20.0,
            above_mm=30.0,
            hot=True,
        )
    if run.case.heater is not None:
        yield Article(
            "heater",
            f"Heater pads, {run.case.heater.power_w:g} W",
            "use",
            1,
            prices.PADS_EURO,
            prices.PADS_KG,
        )
    if run.case.wiring.shunt:
        yield Article(
            "shunt",
            "Shunt with monitor",
            "use",
            1,
            cat.MONITOR,
            cat.SHUNT_KG,
            bulk=cat.SHUNT_BULK,
            clear_mm=10.0,
        )
    elif run.case.wiring.voltmeter:
        yield Article("voltmeter", "Voltmeter", "use", 1, cat.VOLTMETER, cat.VOLTMETER_KG)
