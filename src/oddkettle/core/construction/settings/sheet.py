"""The settings sheet of a box: device by device, in the order in which they are set."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.procedures.check import Check, Checklist
from oddkettle.core.construction.settings.chargers import charger_settings
from oddkettle.core.construction.settings.cutting_off import disconnect_rows, inverter_rows
from oddkettle.core.construction.settings.monitoring import monitor_rows
from oddkettle.core.construction.settings.set_point import (
    DeviceSettings,
    SetPoint,
    amps,
    volts,
)
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.case import Case, LoadOutput
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.alternator import KIND as ALTERNATOR
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import ReadyMade
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.units.quantity import celsius, kelvin


def settings_sheet(run: Run) -> tuple[DeviceSettings, ...]:
    """What its owner sets on each device of a box; of a ready-made unit what its own face lets.

    The voltages are at the box's own system voltage. Source: the plan where it says something that
    the battery bears, else the chemistry's own.
    """
    case = run.case
    if case.unit is not None:
        return (_unit(case, case.unit), *_at_the_loads(case))
    held = {source.key: source.profile or case.profile for source in run.sources}
    return (
        *charger_settings(case, held),
        *_monitor(case, tuple(dict.fromkeys(held.values()))),
        *_cut_offs(run),
        *_battery(case),
        *_at_the_loads(case),
    )


def to_tick(sheet: tuple[DeviceSettings, ...]) -> Checklist:
    """The settings sheet as a list to tick."""
    checks = tuple(
        Check(
            f"{device.part}-{row.key}",
            f"{device.name}: {row.name}",
            f"{row.value} (usual: {row.usual})" if row.usual != row.value else row.value,
            " ".join(part for part in (row.note, row.why, row.otherwise) if part),
        )
        for device in sheet
        for row in device.rows
    )
    return Checklist(
        "settings", "What to set", "once, and after any change of parts", checks, keyed=True
    )


def _battery(case: Case) -> Iterator[DeviceSettings]:
    """Management of a lithium battery, and pads under it."""
    chemistry, bank = case.bank.chemistry, case.bank
    if not chemistry.lead:
        yield DeviceSettings(
            "battery",
            "Battery management system",
            tuple(_management(case)),
        )
    if case.heater is not None:
        on, off = case.heater.on_below_c, case.heater.off_above_c
        barred = chemistry.cold.barred_below_c
        usual = f"above {celsius(barred)}, off {kelvin(4)} to {kelvin(6)} warmer"
        yield DeviceSettings(
            "warmth",
            "Heater pads",
            (
                SetPoint(
                    "thermostat",
                    "On below, off above",
                    f"{celsius(on)}, {celsius(off)}",
                    usual,
                    "Its sensor on the battery, not on the pad.",
                    "Colder: no charge in the morning. Warmer: it heats the night away.",
                ),
            ),
        )
    if bank.parallel > 1 or case.second is not None:
        yield DeviceSettings(
            "battery",
            "Batteries side by side",
            (
                SetPoint(
                    "same",
                    "Settings of all that are side by side",
                    "the same in each",
                    "one battery may not end the charge before the others",
                    "They share one bar.",
                    "The one with the lowest limits works alone, or is shut out.",
                ),
            ),
        )


def _management(case: Case) -> Iterator[SetPoint]:
    chemistry, bank = case.bank.chemistry, case.bank
    most, least = chemistry.never_above_v / chemistry.cells, chemistry.cutoff_v / chemistry.cells
    yield SetPoint(
        "cell-high",
        "Cell at the highest",
        f"{most:.2f} V",
        f"up to {most:.2f} V",
        "It cuts the charge off; chargers stop before it.",
        "Higher: a cell that is ahead of the others is ruined.",
    )
    yield SetPoint(
        "cell-low",
        "Cell at the lowest",
        f"{least:.2f} V",
        f"{least:.2f} V and above",
        "It cuts the use off; the load cut-off comes before it.",
        "Lower: a cell that is behind the others is ruined.",
    )
    yield SetPoint(
        "gives",
        "Discharge at the most",
        amps(chemistry.discharge_limit_c * bank.capacity_ah),
        "the battery's sheet; never above its main fuse",
        "It guards cells and leads for seconds, the fuse for good.",
        "Lower: the inverter's start cuts everything off.",
    )
    if chemistry.cold.barred_below_c >= 0.0:
        yield SetPoint(
            "cold",
            "No charge below",
            celsius(chemistry.cold.barred_below_c),
            f"{celsius(0, unit=False)} to {celsius(5)}",
            "Below freezing lithium plates out.",
            "One charge in hard frost can cost a tenth of the battery.",
        )


def _monitor(case: Case, profiles: tuple[Profile, ...]) -> Iterator[DeviceSettings]:
    if case.wiring.shunt:
        rows = tuple(monitor_rows(case, profiles))
        yield DeviceSettings("wiring", "Battery monitor", rows, also=("battery",))


def _cut_offs(run: Run) -> Iterator[DeviceSettings]:
    case = run.case
    if case.load_output is not None:
        yield _load_output(run, case.load_output)
    yield DeviceSettings(
        "cut-off",
        "Low-voltage disconnect",
        tuple(disconnect_rows(run)),
        also=("battery",),
    )
    if case.inverter is not None:
        yield DeviceSettings("inverter", "Inverter", tuple(inverter_rows(run, case.inverter)))


def _load_output(run: Run, output: LoadOutput) -> DeviceSettings:
    """The plan says its voltages: they stand here, beside what the reserve would want."""
    off, delay, on = disconnect_rows(run)
    name = next(s.name for s in run.case.sun if s.key == output.source)
    return DeviceSettings(
        f"sun:{output.source}",
        f"Load output of {name}",
        (
            _planned(off, output.off_v),
            delay,
            _planned(on, output.on_v),
        ),
    )


def _planned(row: SetPoint, planned_v: float) -> SetPoint:
    """The row with the plan's own voltage, and what the reserve would want where they differ."""
    note = "" if volts(planned_v) == row.value else f"For the reserve of this plan {row.value}."
    return SetPoint(row.key, row.name, volts(planned_v), row.usual, row.why, row.otherwise, note)


def _at_the_loads(case: Case) -> Iterator[DeviceSettings]:
    """Battery guards of cool boxes, which are made for a starter battery."""
    for appliance in case.appliances:
        if not isinstance(appliance.pattern, Fridge):
            continue
        yield DeviceSettings(
            f"appliance:{appliance.key}",
            appliance.name,
            (
                SetPoint(
                    "guard",
                    "Battery guard",
                    "its lowest step",
                    "its lowest step on a box of its own; the highest on a starter battery",
                    "The box has its own cut-off, and some volts are lost on the lead.",
                    "On its highest step it stops with the box half full.",
                ),
                SetPoint(
                    "cold",
                    "Set to",
                    celsius(appliance.pattern.set_c),
                    f"{celsius(2, unit=False)} to {celsius(6)} for food, {celsius(-18)} frozen",
                    "The figure that the plan uses.",
                    "A degree colder costs some five percent more.",
                ),
            ),
        )


def _unit(case: Case, unit: ReadyMade) -> DeviceSettings:
    return DeviceSettings(
        "unit", "Ready-made unit, on its face or in its app", tuple(_face(case, unit))
    )


def _face(case: Case, unit: ReadyMade) -> Iterator[SetPoint]:
    for place, given in enumerate(unit.inputs):
        if given.limit_w is not None:
            yield SetPoint(
                f"input-{place}",
                f"{given.name}: taken at the most",
                f"{given.limit_w:g} W",
                "what its own book says, and no more than what feeds it can give",
                "The figure that the plan uses.",
                "More: a socket's fuse goes, or the hook-up's breaker.",
            )
    mains = [s for s in case.sources if isinstance(s, MainsCharger)]
    for charger in mains:
        watts = charger.limit_a * case.bank.nominal_v / charger.efficiency
        yield SetPoint(
            f"mains-{charger.key}",
            f"{charger.name}: charging power",
            f"{watts:.0f} W",
            "less is quieter and easier on the cells",
            "The figure that the plan uses.",
            "At its fastest it heats the cells, and a small hook-up trips.",
        )
    if any(s.group == ALTERNATOR.key for s in case.sources):
        yield SetPoint(
            "socket",
            "12 V input, where its current can be set",
            "8 A, unless the plan's lead bears more",
            "below the fuse of the socket that it hangs on",
            "Many a socket is fused for 10 A.",
            "The fuse goes on the road, and nothing is charged.",
        )
    yield SetPoint(
        "lowest",
        "Outputs off at",
        f"{100 * case.floor:.0f} %",
        f"{100 * case.floor:.0f} % or above",
        "The plan's reserve.",
        "Lower: the reserve is gone unseen.",
    )
    yield SetPoint(
        "highest",
        "Charged up to",
        "100 %",
        "80 to 90 % at home, 100 % before and on a trip",
        "The plan begins with a full one.",
        "Left full and hot for months it ages.",
    )
    yield SetPoint(
        "sleeps",
        "Outputs off by themselves",
        "never, while something small must run",
        "12 h or so otherwise",
        "A load of a few watts counts as none.",
        "A router or a logger is off in the morning.",
    )
    yield SetPoint(
        "outputs",
        "Outputs that nobody uses",
        "off",
        "off at night",
        f"Being on alone it draws {unit.standby_w:g} W, {24 * unit.standby_w:.0f} Wh a day.",
        "Its own draw can be half of all use.",
    )
