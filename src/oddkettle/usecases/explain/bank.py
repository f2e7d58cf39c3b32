"""Sums about the battery: usable content, charge limit, wear, weight, time alone."""

from __future__ import annotations

from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import DAYS_PER_YEAR
from oddkettle.core.units.quantity import clock, kg_per_ah, kilogram
from oddkettle.results.run import Amount, RunReport
from oddkettle.results.sums import Constant, Sum, SumLine, constant, figure_line, flow_line
from oddkettle.text.words import life_words
from oddkettle.usecases.simulate.endurance import outage_of


def _of_bank(run: Run, share: float) -> Amount:
    bank = run.case.bank
    return Amount(ah=bank.capacity_ah * share, wh=bank.nominal_wh * share)


def usable_sum(run: Run, report: RunReport) -> Sum:
    """What of the label can be used."""
    bank, floor = run.case.bank, run.case.floor
    chemistry = bank.chemistry
    unit = run.case.unit
    out = 1.0 if unit is None else unit.usable
    holds = run.case.content
    joined = f"{bank.battery_ah:g} Ah × {bank.parallel}" if bank.parallel > 1 else "one string"
    return Sum(
        title="Usable",
        text="What it holds of its label, less what your reserve keeps back.",
        lines=[
            flow_line("On the label", _of_bank(run, 1.0), "+", joined),
            *(
                [
                    flow_line(
                        "Gone with its age",
                        _of_bank(run, 1.0 - holds),
                        "-",
                        f"it holds about {100 * holds:.0f} %",
                    )
                ]
                if holds < 1.0
                else []
            ),
            flow_line(
                "Kept as your reserve", _of_bank(run, holds * floor), "-", f"{100 * floor:.0f} %"
            ),
            *(
                []
                if unit is None
                else [
                    flow_line(
                        "Lost inside the unit",
                        _of_bank(run, holds * (1.0 - floor) * (1.0 - out)),
                        "-",
                        f"{100 * (1.0 - out):.0f} %, as entered",
                    )
                ]
            ),
            flow_line("Usable", _of_bank(run, holds * (1.0 - floor) * out), "="),
            *(
                [
                    flow_line(
                        "of the label its makers advise to use",
                        _of_bank(run, chemistry.usable_share),
                        note=f"{100 * chemistry.usable_share:.0f} %",
                    )
                ]
                if unit is None
                else []
            ),
        ],
        constants=[
            constant(
                "Healthy share",
                f"{100 * chemistry.usable_share:.0f} %",
                chemistry.sources,
                "usable_share",
            ),
            Constant(
                text="Nominal voltage",
                value=f"{bank.nominal_v:.1f} V",
                source=f"{bank.cells_in_series:g} cells of {chemistry.name}",
            ),
        ],
    )


def charge_limit_sum(run: Run, report: RunReport) -> Sum:
    """The largest charge current."""
    bank = run.case.bank
    share = bank.chemistry.charge_limit_c
    return Sum(
        title="Largest charge",
        text="A share of the capacity, by chemistry or by its data sheet.",
        lines=[
            figure_line("Capacity", f"{bank.capacity_ah:g} Ah"),
            figure_line("times", f"{share:g} an hour"),
            figure_line("Largest charge", f"{share * bank.capacity_ah:.0f} A", "="),
        ],
        constants=[
            constant(
                "Share", f"{share:g} of capacity an hour", bank.chemistry.sources, "charge_limit_c"
            ),
        ],
    )


def mass_sum(run: Run, report: RunReport) -> Sum:
    """What the batteries weigh."""
    bank = run.case.bank
    per = bank.chemistry.kg_per_ah * bank.volts_scale
    return Sum(
        title="Weight of the batteries",
        text="Typical of the chemistry, or from the data sheet.",
        lines=[
            figure_line("Capacity", f"{bank.capacity_ah:g} Ah"),
            figure_line("times", kg_per_ah(per)),
            figure_line("Weight", kilogram(bank.mass_kg), "="),
        ],
        constants=[constant("Weight", kg_per_ah(per), bank.chemistry.sources, "kg_per_ah")],
    )


def ageing_sum(run: Run, report: RunReport) -> Sum:
    """What the trip takes of the battery's life."""
    life, aged = run.case.bank.chemistry.life, report.endurance.ageing
    share = aged.life_percent
    return Sum(
        title="Wear of this trip",
        text="Cycles are counted by rainflow and weighed by their depth; the calendar runs beside "
        "them. The larger of the two leads. Batteries of one kind differ: the life that one "
        f"reaches lies within a factor of {life.known_within:g} either way.",
        lines=[
            figure_line("Full cycles, all depths together", f"{aged.full_cycles:.2f}"),
            figure_line("Deepest", f"{aged.deepest_percent:.0f} %"),
            figure_line("Of its life, by cycles", f"{aged.cycle_share_percent:.2f} %"),
            figure_line("Of its life, by the calendar", f"{aged.calendar_share_percent:.2f} %"),
            figure_line(
                "The larger, with its doubt",
                life_words(share.low, share.high),
                "=",
            ),
        ],
        constants=[
            constant(
                "Cycles at depth D",
                f"{life.cycles_at_full:g} × D^-{life.exponent:g}",
                run.case.bank.chemistry.sources,
                "life",
            ),
            Constant(
                text="Calendar life",
                value="{:.0f} to {:.0f} years of {:g} days".format(*life.years(), DAYS_PER_YEAR),
                source=run.case.bank.chemistry.sources["life"].text,
            ),
        ],
    )


def _in_the_worst(run: Run, step: int) -> list[SumLine]:
    """The same over the scenarios, where the trip is long enough to tell."""
    span = outage_of(run, step)
    if span is None:
        return []
    return [figure_line("in the worst trip of ten", f"{span.worst_h:.0f} h")]


def alone_sum(run: Run, report: RunReport) -> Sum | None:
    """How long the box stands without any source, from its worst moment."""
    from oddkettle.text.words import moment

    worst = report.endurance.shortest_autonomy
    if worst is None:
        return None
    at = moment(run, worst.step)
    level = float(run.level[worst.step])
    above = max(level - run.case.floor, 0.0)
    hours = "more than 60 days" if worst.hours is None else f"{worst.hours:.1f} h"
    return Sum(
        title="Without any source",
        text=f"The run is made again from {at:%a} {at.day}, {clock(at)} with every source off, "
        "until it meets your reserve. That moment is the worst of marks three hours apart.",
        lines=[
            figure_line("Level then", f"{100 * level:.0f} %"),
            flow_line("above your reserve", _of_bank(run, above)),
            figure_line("lasts in expected weather", hours, "="),
            *_in_the_worst(run, worst.step),
        ],
    )
