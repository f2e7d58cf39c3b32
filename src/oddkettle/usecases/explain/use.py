"""Sums of the average day: appliances, peak, night, standby, guesses."""

from __future__ import annotations

import numpy as np

from oddkettle.core.loads.demand import INVERTER_KEY, Appliance, DrawSeries
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.units.quantity import charge, clock
from oddkettle.plan import Plan
from oddkettle.results.run import Amount, RunReport, UseDraw
from oddkettle.results.sums import Constant, Sum, SumLine, figure_line, flow_line
from oddkettle.usecases.simulate.use_report import HEATER_KEY


def use_sum(run: Run, report: RunReport) -> Sum:
    """All appliances of an average day."""
    use = report.use
    drawn = sorted(use.draws, key=lambda draw: -draw.a_day.wh)
    return Sum(
        title="Use a day",
        text="Each appliance's average day over the trip, at the bus.",
        lines=[
            *(flow_line(d.name, d.a_day, "+", opens=f"appliance:{d.key}") for d in drawn),
            flow_line("Use a day", use.a_day, "="),
        ],
        constants=[_bus(use.a_day)],
    )


def _bus(used: Amount) -> Constant:
    volts = used.wh / used.ah if used.ah > 0.0 else 0.0
    return Constant(
        text="Watts become amps at",
        value=f"{volts:.2f} V",
        source="the bus's mean voltage in the run, while it was used",
    )


def appliance_sum(run: Run, report: RunReport, key: str) -> Sum | None:
    """One appliance's average day, step by step from its plug to the battery."""
    draw = next((d for d in run.draws if d.key == key), None)
    day = next((d for d in report.use.draws if d.key == key), None)
    if key == HEATER_KEY and day is not None:
        return _pads_sum(run, report, day)
    if draw is None or day is None:
        return None
    appliance = next((a for a in run.case.appliances if a.key == key), None)
    lines = _own_lines(run, draw, day) if appliance is None else _lines(run, appliance, draw, day)
    constants = [_bus(day.a_day)]
    if appliance is not None and appliance.supply != "12v":
        constants.append(
            Constant(
                text="Its converter passes",
                value=f"{100 * draw.plug_share:.0f} %",
                source="12 V to USB [textbook]"
                if appliance.supply == "usb"
                else "the inverter's best efficiency, as entered; its own draw is counted apart",
            )
        )
    if appliance is not None and isinstance(appliance.pattern, Fridge):
        constants.append(
            Constant(
                text="It runs longer when it is warmer",
                value="share × (air − set) / (reference − set)",
                source="heat through the walls follows the difference [textbook]",
            )
        )
    return Sum(
        title=f"{draw.name}, an average day",
        text="From the power at its plug to the charge that the battery gives.",
        lines=lines,
        constants=constants,
    )


def _pads_sum(run: Run, report: RunReport, day: UseDraw) -> Sum:
    """The pads under the battery: how long their thermostat lets them run."""
    assert run.case.heater is not None
    on_h = day.a_day.wh / run.case.heater.power_w
    lines = [
        figure_line("Draws", f"{run.case.heater.power_w:g} W"),
        figure_line("while its thermostat is on", f"{on_h:.1f} h a day", "="),
        flow_line("A day", day.a_day, "="),
    ]
    night = report.endurance.heater_night
    if night is not None:
        lines.append(flow_line("the most in one night, noon to noon", night))
    return Sum(
        title=f"{day.name}, an average day",
        text="The thermostat switches them by the battery's own temperature.",
        lines=lines,
        constants=[_bus(day.a_day)],
    )


def _own_lines(run: Run, draw: DrawSeries, day: UseDraw) -> list[SumLine]:
    on_h = float(np.count_nonzero(draw.asked_w > 0.0) * run.grid.step_h) / run.case.days
    return [
        figure_line("Draws", f"{draw.peak_w:.1f} W"),
        figure_line("while it is on", f"{on_h:.1f} h a day", "="),
        flow_line("A day", day.a_day, "="),
    ]


def _lines(run: Run, appliance: Appliance, draw: DrawSeries, day: UseDraw) -> list[SumLine]:
    plug_wh = day.a_day.wh * draw.plug_share
    moved_wh = float(draw.moved_w.sum()) * run.grid.step_h / run.case.days * draw.plug_share
    running_h = (plug_wh + moved_wh) / appliance.power_w
    lines = [
        figure_line("Power while it runs", f"{appliance.power_w:g} W", note="at its own plug"),
        figure_line(
            "runs, all its hours and shares counted",
            f"{running_h:.1f} h a day" if running_h >= 1 else f"{60 * running_h:.0f} min a day",
            note=f"{100 * running_h / HOURS_PER_DAY:.0f} % of the day",
        ),
        figure_line("At its plug", f"{plug_wh + moved_wh:.1f} Wh", "="),
    ]
    if moved_wh > 0.05:
        lines.append(figure_line("on the vehicle while driving", f"{moved_wh:.1f} Wh", "-"))
    if draw.plug_share < 1.0:
        lines.append(figure_line("lost in its converter", f"{day.lost_wh:.1f} Wh", "+"))
    lines.append(flow_line("From the battery a day", day.a_day, "="))
    if appliance.spread > 0.0:
        off = Amount(ah=day.a_day.ah * appliance.spread, wh=day.a_day.wh * appliance.spread)
        lines.append(flow_line("a guess: more or less by", off))
    return lines


def peak_sum(run: Run, report: RunReport) -> Sum:
    """What runs at the hour of the largest current."""
    use = report.use
    slot = use.peak_min // run.grid.step_min
    due = [d for d in use.draws if d.profile_a[slot] > 0.0]
    begins = clock(use.peak_min)
    return Sum(
        title=f"Peak current, {begins}",
        text="Everything that is due then, running at the same moment.",
        lines=[
            *(
                figure_line(d.name, f"{d.running_a:.2f} A", "+")
                for d in sorted(due, key=lambda d: -d.running_a)
            ),
            figure_line("Together", f"{use.peak_a:.1f} A", "="),
        ],
        constants=[_bus(use.a_day)],
    )


def night_sum(run: Run, report: RunReport) -> Sum:
    """Use while the sun is down."""
    use = report.use
    share = use.night_percent / 100
    by_night = Amount(ah=use.a_day.ah * share, wh=use.a_day.wh * share)
    by_day = Amount(ah=use.a_day.ah - by_night.ah, wh=use.a_day.wh - by_night.wh)
    first = report.days[0]
    dark = "by the first day's sun"
    if first.sunset_min is not None and first.sunrise_min is not None:
        down, up = int(first.sunset_min), int(first.sunrise_min)
        dark = f"from {clock(down)} to {clock(up)}"
    return Sum(
        title="By night",
        text=f"Use while the sun is down, {dark}.",
        lines=[
            flow_line("By night", by_night, "+"),
            flow_line("By day", by_day, "+"),
            flow_line("Use a day", use.a_day, "="),
            figure_line("By night", f"{use.night_percent:.0f} %", "="),
        ],
    )


def standby_sum(run: Run, report: RunReport) -> Sum:
    """What is drawn without doing anything."""
    return Sum(
        title="Standby, a day",
        text="What waits, idles or watches all day and does no work of its own.",
        lines=[
            *(flow_line(part.name, part.a_day, "+") for part in report.use.standby),
            flow_line("Standby", report.use.standby_a_day, "="),
        ],
        constants=[_bus(report.use.a_day)],
    )


def guess_sum(run: Run, report: RunReport, plan: Plan) -> Sum:
    """How far the day's sum may be off."""
    spread = {a.key: a.spread for a in run.case.appliances if a.spread > 0.0}
    lines = []
    for draw in report.use.draws:
        if draw.key in spread and draw.key != INVERTER_KEY:
            off = Amount(ah=draw.a_day.ah * spread[draw.key], wh=draw.a_day.wh * spread[draw.key])
            note = f"{100 * spread[draw.key]:.0f} % of its day"
            lines.append(flow_line(draw.name, off, "+", note))
    total = report.use.spread
    return Sum(
        title="How far it may be off",
        text="Guesses are taken to be off independently of one another, so their squares add up.",
        lines=[
            *lines,
            SumLine(
                text="Together, root of the squares",
                value=f"± {charge(total.ah, total.wh, '.1f')}",
                sign="=",
            ),
            SumLine(text="Measured", value="counted as exact"),
        ],
    )
