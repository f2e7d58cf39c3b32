"""Sums of what came in and went out, over a day or the trip."""

from __future__ import annotations

from typing import Any

import numpy as np

from oddkettle.core.loads.demand import USB_EFFICIENCY
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import lowest
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.panel import DIRT_SHARE, MISMATCH_SHARE
from oddkettle.core.units.quantity import charge, clock
from oddkettle.results.run import Amount, DrawReport, Period, SourceReport
from oddkettle.results.sums import (
    Constant,
    Sum,
    SumLine,
    constant,
    figure_line,
    flow_line,
)
from oddkettle.text.words import moment
from oddkettle.usecases.explain.odds import NOBODY_TOLD
from oddkettle.usecases.simulate.run_report import period_of


def span_of(run: Run, day: int | None) -> tuple[int, int]:
    """First step and the one after the last of a day, or of the trip."""
    if day is None:
        return 0, run.grid.steps
    return int(run.grid.day_starts[day]), int(run.grid.day_starts[day + 1])


def ledger_of(run: Run, first: int, last: int) -> Period:
    """The ledger of any stretch of steps."""
    ledger = keep_ledger(run, np.array([first, last]))
    return Period.model_validate(period_of(run, ledger, lambda values: float(values[0])))


def taken_sum(run: Run, period: Period, when: str) -> Sum:
    """What all sources put in."""
    lines = [flow_line(s.name, s.taken, "+", opens=f"source:{s.key}") for s in period.sources]
    return Sum(
        title=f"In, {when}",
        text="What each source put into the box, measured at the bus behind its charger.",
        lines=[*lines, flow_line("In", period.taken, "=")],
    )


def used_sum(run: Run, period: Period, when: str) -> Sum:
    """What everything drew."""
    drawn = sorted(period.draws, key=lambda draw: -draw.used.wh)
    lines = [flow_line(d.name, d.used, "+", opens=f"draw:{d.key}") for d in drawn]
    return Sum(
        title=f"Out, {when}",
        text="What each appliance drew from the bus, with what its converter lost.",
        lines=[
            *lines,
            flow_line("Out", period.used, "="),
            figure_line(
                "of it heat in USB converters and the inverter",
                f"{period.lost.converters_wh:.0f} Wh",
            ),
        ],
        constants=[_usb()],
    )


def _usb() -> Constant:
    return Constant(
        text="USB converter passes",
        value=f"{100 * USB_EFFICIENCY:.0f} %",
        source="typical of 12 V to USB converters [textbook]",
    )


def net_sum(run: Run, period: Period, when: str) -> Sum:
    """In less out."""
    return Sum(
        title=f"Net, {when}",
        text="What came in less what went out, before the battery's own losses.",
        lines=[
            flow_line("In", period.taken, "+", opens="taken"),
            flow_line("Out", period.used, "-", opens="used"),
            flow_line("Net", period.net, "="),
        ],
    )


def ledger_sum(run: Run, period: Period, when: str) -> Sum:
    """The whole account: in by source, out by appliance, lost, left."""
    lost = period.lost
    in_battery = Amount(
        ah=lost.coulombic.ah + lost.leaked.ah,
        wh=lost.coulombic.wh + lost.leaked.wh + lost.resistance_wh + lost.lag_wh,
    )
    drawn = sorted(period.draws, key=lambda draw: -draw.used.wh)
    return Sum(
        title=f"{when[0].upper()}{when[1:]}: where it came from and went",
        text="In less out less lost is what the battery gained or gave. Measured at its wires.",
        lines=[
            *(
                flow_line(s.name, s.taken, "+", _not_taken(s), f"source:{s.key}")
                for s in period.sources
            ),
            flow_line("In", period.taken, "=", opens="taken"),
            *(flow_line(d.name, d.used, "-", _denied(d), f"draw:{d.key}") for d in drawn),
            flow_line("Out", period.used, "=", opens="used"),
            flow_line("Lost in the battery", in_battery, "-", opens="lost"),
            flow_line("Left in the battery, more or less", period.stored, "=", opens="stored"),
            SumLine(text="Lowest level", value="open", opens="lowest"),
        ],
    )


def _not_taken(source: SourceReport) -> str:
    parts = (
        (source.barred, "kept away"),
        (source.clipped, "held back by its limits"),
        (source.spilled, SOURCE_KINDS[source.kind].spare),
    )
    return "; ".join(
        f"{charge(amount.ah, amount.wh, '.1f')} {why}" for amount, why in parts if amount.ah > 0.05
    )


def _denied(draw: DrawReport) -> str:
    parts = (
        (draw.unmet, "denied: switched off"),
        (draw.moved, "carried by the vehicle"),
    )
    return "; ".join(
        f"{charge(amount.ah, amount.wh, '.1f')} {why}" for amount, why in parts if amount.ah > 0.05
    )


def stored_sum(run: Run, period: Period, when: str) -> Sum:
    """How the battery's content changed."""
    lost = period.lost
    heat = Amount(ah=0.0, wh=lost.resistance_wh + lost.lag_wh)
    sources = run.case.bank.chemistry.sources
    return Sum(
        title=f"Stored, {when}",
        text="Charge that came in and neither went out nor was lost stands in the battery.",
        lines=[
            flow_line("In", period.taken, "+"),
            flow_line("Out", period.used, "-"),
            flow_line("Charge that does not come back", lost.coulombic, "-"),
            flow_line("Self-discharge", lost.leaked, "-"),
            flow_line("Heat in the battery", heat, "-"),
            flow_line("Stored", period.stored, "="),
        ],
        constants=[
            constant(
                "Of charge comes back",
                f"{100 * run.case.bank.chemistry.coulombic_low:.1f} %",
                sources,
                "coulombic",
            ),
            constant(
                "Self-discharge",
                f"{100 * run.case.bank.chemistry.self_discharge_month:.1f} % a month",
                sources,
                "self_discharge_month",
            ),
        ],
    )


def lost_sum(run: Run, period: Period, when: str) -> Sum:
    """Where energy went that did no work."""
    lost = period.lost
    whole = (
        lost.chargers_wh
        + lost.wiring_wh
        + lost.converters_wh
        + lost.resistance_wh
        + lost.lag_wh
        + lost.coulombic.wh
        + lost.leaked.wh
    )
    rows = [
        ("Heat in the chargers", lost.chargers_wh),
        ("Heat in the cables to them", lost.wiring_wh),
        ("Heat in USB converters and the inverter", lost.converters_wh),
        ("Heat in the battery", lost.resistance_wh + lost.lag_wh),
        ("Charge that does not come back", lost.coulombic.wh),
        ("Self-discharge", lost.leaked.wh),
    ]
    return Sum(
        title=f"Losses, {when}",
        text="Energy that came from a source and did no work. Heat is energy, so it is told in Wh.",
        lines=[
            *(figure_line(text, f"{wh:.0f} Wh", "+") for text, wh in rows),
            figure_line("Lost", f"{whole:.0f} Wh", "="),
        ],
        constants=[
            *(
                Constant(
                    text=f"{s.name} passes",
                    value=f"{100 * s.efficiency:.0f} %",
                    source="its own figure, as entered",
                )
                for s in run.sources
                if s.feed_s == 0.0 and not s.pwm
            ),
            _usb(),
        ],
    )


def held_of_label(case: Case) -> list[Constant]:
    """What the battery is taken to hold of its label, where that is less than all of it."""
    if case.content >= 1.0:
        return []
    found = [
        Constant(
            text="Holds",
            value=f"{100 * case.content:.0f} % of its label, {case.holds_ah:.0f} Ah",
            source="by its age, on the Box page" if case.doubt.capacity_told else NOBODY_TOLD,
        )
    ]
    if case.begins_at < case.soc0:
        found.append(
            Constant(
                text="Level at the start",
                value=f"{100 * case.begins_at:.0f} % where {100 * case.soc0:.0f} % are shown",
                source="a monitor counts what is missing as a share of the label",
            )
        )
    return found


def lowest_sum(run: Run, first: int, last: int, when: str) -> Sum:
    """How the level came to its lowest point."""
    low = lowest(run, first, last)
    begin = moment(run, 0)
    capacity, held = run.case.bank.capacity_ah, run.case.holds_ah
    lines = [
        figure_line(
            f"Level at the start, {begin:%a} {begin.day} {clock(begin)}",
            f"{100 * float(run.level[0]):.1f} %",
        )
    ]
    if low.step > 0:
        period = ledger_of(run, 0, low.step)
        lines += [
            flow_line("In until then", period.taken, "+"),
            flow_line("Out until then", period.used, "-"),
            flow_line(
                "Lost in the battery until then",
                Amount(
                    ah=period.lost.coulombic.ah + period.lost.leaked.ah,
                    wh=period.taken.wh - period.used.wh - period.stored.wh,
                ),
                "-",
            ),
            flow_line("Stored since the start", period.stored, "="),
        ]
    at = moment(run, low.step)
    note = f"stored over {held:.0f} Ah" if run.case.second is None else "two banks share it"
    lines.append(figure_line("Level there", f"{100 * low.soc:.1f} %", "=", note))
    return Sum(
        title=f"Lowest level, {when}",
        text=f"The lowest point is {at:%a} {at.day} at {clock(at)}.",
        lines=lines,
        constants=[
            Constant(
                text="Capacity", value=f"{capacity:g} Ah", source="the battery's label, as entered"
            ),
            *held_of_label(run.case),
            Constant(
                text="Your floor",
                value=f"{100 * run.case.floor:.0f} %",
                source="your own choice, on the Trip page",
            ),
        ],
    )


def source_sum(run: Run, period: Period, key: str, when: str) -> Sum | None:
    """From what a source offers to what the box took."""
    found = next((s for s in period.sources if s.key == key), None)
    if found is None:
        return None
    lines = [flow_line("It could give", found.offered, "+")]
    for text, amount in (
        ("Kept away by a selector, quiet hours or use", found.barred),
        ("Held back by a limit", found.clipped),
        ("Found the battery full or slowing", found.spilled),
    ):
        if amount.ah > 0.005:
            lines.append(flow_line(text, amount, "-"))
    lines.append(flow_line("Taken", found.taken, "="))
    lines.append(figure_line("on the way lost as heat in its charger", _wh(found.conversion_wh)))
    if found.wiring_wh >= 0.5:
        lines.append(figure_line("and in its cable", _wh(found.wiring_wh)))
    return Sum(
        title=f"{found.name}, {when}",
        text=SOURCE_KINDS[found.kind].how_made,
        lines=lines,
        constants=_source_constants(run, found),
    )


def _wh(wh: float) -> str:
    return f"{wh:.0f} Wh"


def _source_constants(run: Run, found: SourceReport) -> list[Constant]:
    entered = "as entered"
    source = next(s for s in run.sources if s.key == found.key)
    rows: list[Any] = [("Its limit", f"{source.rating_a:g} A", entered)]
    if source.feed_s == 0.0 and not source.pwm:
        rows.append(("It passes", f"{100 * source.efficiency:.0f} %", entered))
    if source.volts is not None:
        rows += [
            ("Dust leaves", f"{100 * DIRT_SHARE:.0f} %", "usual soiling [textbook]"),
            ("Mismatch leaves", f"{100 * MISMATCH_SHARE:.0f} %", "unequal cells [textbook]"),
            ("Clear sky", "Ineichen, at place and date", "pvlib; worldwide turbidity table"),
            ("Onto the panel", "Hay-Davies", "pvlib; ground reflects 20 % [textbook]"),
        ]
        hot = f"{source.volts.hot_vmp_v:.1f} V"
        rows.append(("Hottest working voltage", hot, "label moved by cell temperature"))
    if source.feed_ohm > 0.0:
        ohm = f"{1000 * source.feed_ohm:.1f} mOhm"
        rows.append(("Feed", ohm, "copper 0.0172 ohm mm2/m there and back, plugs [textbook]"))
    return [Constant(text=text, value=value, source=origin) for text, value, origin in rows]


def draw_sum(run: Run, period: Period, key: str, when: str) -> Sum | None:
    """What one appliance drew, was denied, and what the vehicle carried."""
    found = next((d for d in period.draws if d.key == key), None)
    if found is None:
        return None
    lines = [flow_line("Drawn from the bus", found.used, "=")]
    if found.lost_wh >= 0.05:
        lines.append(figure_line("of it lost in its converter", f"{found.lost_wh:.1f} Wh"))
    if found.unmet.ah > 0.005:
        lines.append(flow_line("Denied while it was switched off", found.unmet))
    if found.moved.ah > 0.005:
        lines.append(flow_line("Carried by the vehicle", found.moved))
    return Sum(
        title=f"{found.name}, {when}",
        text="Its power, in its hours, for the share that it really runs, through its converter. "
        "The Use page opens each of these.",
        lines=lines,
        constants=[_usb()],
    )
