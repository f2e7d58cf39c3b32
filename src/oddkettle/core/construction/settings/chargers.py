"""What is set on every charger of a box: what several hold alike stands once, before them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from oddkettle.core.construction.settings.charging import current_row, preset_of, voltage_rows
from oddkettle.core.construction.settings.set_point import (
    DeviceSettings,
    SetPoint,
    volts,
    volts_span,
)
from oddkettle.core.simulation.case import Case
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.dcdc import SENSING_HYSTERESIS_V, DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.relay import RELAY_CLOSES_V, RELAY_OPENS_V, Relay
from oddkettle.core.sources.solar import SunInput
from oddkettle.core.sources.source_series import ChargeSource

MAINS_CIRCUIT_A = (6, 10, 13, 16)
"""Hook-ups that one meets [A, textbook]."""


def charger_settings(case: Case, held: Mapping[str, Profile]) -> Iterator[DeviceSettings]:
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
        yield current_row(case, _passes_a(case, source.key, source.controller.limit_a))
    elif isinstance(source, DcDc):
        passes = source.limit_a * (0.5 if source.half_current else 1.0)
        yield current_row(case, _passes_a(case, source.key, passes), source.half_current)
        yield from _input(source)
    elif isinstance(source, Relay):
        yield from _closes(source)
    elif isinstance(source, MainsCharger):
        yield current_row(case, _passes_a(case, source.key, source.limit_a))
        yield from _hook_up(source)


def _passes_a(case: Case, key: str, own_a: float) -> float:
    """What a charger gives at the most [A]: as an input of a combined one, what that gives."""
    joined = case.joining.kind == "combined" and key in case.joining.members
    return case.joining.limit_a if joined else own_a


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
