"""The settings sheet of a box: device by device, in the order in which they are set."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from oddkettle.core.construction.settings.charging import (
    current_row,
    preset_of,
    voltage_rows,
)
from oddkettle.core.construction.settings.cutting_off import disconnect_rows, inverter_rows
from oddkettle.core.construction.settings.monitoring import monitor_rows
from oddkettle.core.construction.settings.set_point import (
    DeviceSettings,
    SetPoint,
    amps,
    volts,
    volts_span,
)
from oddkettle.core.judgement.evidence import appliance_part
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.case import Case, LoadOutput
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.alternator import KIND as ALTERNATOR
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import ReadyMade
from oddkettle.core.sources.dcdc import SENSING_HYSTERESIS_V, DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.relay import RELAY_CLOSES_V, RELAY_OPENS_V, Relay
from oddkettle.core.sources.solar import SunInput
from oddkettle.core.sources.source_series import ChargeSource
from oddkettle.core.units.quantity import celsius

MAINS_CIRCUIT_A = (6, 10, 13, 16)
"""Hook-ups that one meets [A, textbook]."""


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
        *_chargers(case, held),
        *_monitor(case, tuple(dict.fromkeys(held.values()))),
        *_cut_offs(run),
        *_battery(case),
        *_at_the_loads(case),
    )


def _chargers(case: Case, held: Mapping[str, Profile]) -> Iterator[DeviceSettings]:
    """Every charger; what several hold alike stands once, before them. `held` is by their key."""
    charging = [
        (source, rows) for source in _apart(case) if (rows := tuple(_own_rows(case, source)))
    ]
    by_profile: dict[Profile, list[ChargeSource]] = {}
    for source, _ in charging:
        if not isinstance(source, Relay):
            by_profile.setdefault(held.get(source.key, case.profile), []).append(source)
    alike = {profile: sources for profile, sources in by_profile.items() if len(sources) > 1}
    for profile, sources in alike.items():
        parts = tuple(_part(source) for source in sources)
        name = ", ".join(source.name for source in sources)
        voltages = tuple(voltage_rows(case, profile))
        yield DeviceSettings(parts[0], name, voltages, preset_of(case), parts[1:])
    for source, rows in charging:
        profile = held.get(source.key, case.profile)
        if isinstance(source, Relay) or profile in alike:
            yield DeviceSettings(_part(source), source.name, rows)
        else:
            voltages = tuple(voltage_rows(case, profile))
            preset = "" if profile.one_voltage else preset_of(case)
            yield DeviceSettings(_part(source), source.name, (*voltages, *rows), preset)


def _part(source: ChargeSource) -> str:
    return f"{source.group}:{source.key}"


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
        usual = f"above {celsius(barred)}, on and off {5} K apart or so"
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


def _apart(case: Case) -> Iterator[ChargeSource]:
    """The sources that are devices of their own: of one combined charger its first input."""
    seen = False
    for source in case.sources:
        joined = case.joining.kind == "combined" and source.key in case.joining.members
        if not (joined and seen):
            yield source
        seen = seen or joined


def _own_rows(case: Case, source: ChargeSource) -> Iterator[SetPoint]:
    """What is set on one charger beside its voltages; nothing for what has nothing to set.

    A generator works through a mains charger; a crank's regulator is set when it is made.
    """
    if isinstance(source, SunInput) and source.controller.kind != "none":
        yield from _class(case)
        yield current_row(case, source.controller.limit_a)
    elif isinstance(source, DcDc):
        passes = source.limit_a * (0.5 if source.half_current else 1.0)
        yield current_row(case, passes, source.half_current)
        yield from _input(source)
    elif isinstance(source, Relay):
        yield from _closes(source)
    elif isinstance(source, MainsCharger):
        yield current_row(case, source.limit_a)
        yield from _hook_up(source)


def _class(case: Case) -> Iterator[SetPoint]:
    yield SetPoint(
        "class",
        "System voltage",
        f"{case.bank.system_v:g} V",
        "fixed, not automatic",
        "So that it does not guess.",
        "Connected to an empty battery it may take 24 V for 12 V, and charge at half or double.",
    )


def _input(source: DcDc) -> Iterator[SetPoint]:
    if source.ignition:
        yield SetPoint(
            "starts",
            "Starts by",
            "its ignition wire",
            "a wire that is live only while the engine runs",
            "A modern alternator lets its voltage fall: sensing takes that for a stopped engine."
            if source.alternator.smart
            else "It charges from the first minute, and never while parked.",
            "On a wire that stays live it empties the starter battery.",
        )
    else:
        off = source.cut_in_v - SENSING_HYSTERESIS_V
        yield SetPoint(
            "starts",
            "Starts above, lets go below",
            f"{volts(source.cut_in_v)}, {volts(off)}",
            f"{volts_span(13.0, 13.4)} and {volts_span(12.6, 13.0)}",
            "What only a running alternator shows.",
            "Lower: it empties the starter battery. Higher: a modern alternator never starts it.",
        )
    yield SetPoint(
        "input-low",
        "Input at the lowest",
        volts(source.cut_out_v),
        volts_span(10.5, min(12.5, source.alternator.volts - 1.0)),
        "At its own terminals, with the feed's loss.",
        "Higher: it stops and starts again on a long lead.",
    )
    if source.delay_min > 0:
        yield SetPoint(
            "delay",
            "Waits after each start",
            f"{source.delay_min:g} min",
            "0 to 10 min",
            "The starter battery comes first.",
            "On short drives a long wait takes most of the charge.",
        )


def _closes(source: Relay) -> Iterator[SetPoint]:
    closes = RELAY_OPENS_V if source.alternator.smart else RELAY_CLOSES_V
    if source.forced:
        return
    yield SetPoint(
        "closes",
        "Closes above, opens below",
        f"{volts(closes)}, {volts(RELAY_OPENS_V)}",
        f"{volts_span(13.2, 13.7)} and {volts_span(12.7, 13.0)}",
        "It joins both batteries only while the engine runs.",
        "Lower: the box empties the starter battery, or the other way round.",
    )
    yield SetPoint(
        "both-ways",
        "Sensing of both sides",
        "off: of the vehicle only",
        "off",
        "A panel on the box would close it.",
        "The box's sun then charges the vehicle, and the box goes short.",
    )


def _hook_up(source: MainsCharger) -> Iterator[SetPoint]:
    if source.supply_w is not None:
        yield SetPoint(
            "input-limit",
            "Input limit",
            f"{source.supply_w:g} W",
            "what the hook-up's breaker leaves for it; "
            + ", ".join(f"{a}" for a in MAINS_CIRCUIT_A)
            + " A are met",
            "The breaker stays in while a kettle runs beside it.",
            "It trips, and nobody sees it until the morning.",
        )
    yield SetPoint(
        "supply-mode",
        "Power-supply mode",
        "off",
        "off while a battery is connected",
        "It is a charger here.",
        "It holds one voltage for good: never full, or never at rest.",
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
            appliance_part(appliance),
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
                    "What the plan reckons with.",
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
                "What the plan reckons with.",
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
            "What the plan reckons with.",
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
        "The plan reckons with a full one.",
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
