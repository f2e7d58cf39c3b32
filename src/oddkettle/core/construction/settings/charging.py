"""What every charger asks for: voltages, what ends absorption, cold and heat, current."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.construction.settings.set_point import (
    SetPoint,
    amps,
    percent_span,
    volts,
    volts_span,
)
from oddkettle.core.simulation.case import Case
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.units.conversion import CLASS_V
from oddkettle.core.units.quantity import celsius

ROUNDS_V = 0.05
"""Set points are written to a tenth of a volt."""


@dataclass(frozen=True)
class Limits:
    """Between what the chargers of a box may be set [V at its own voltage].

    Of two banks side by side both must bear it.
    """

    absorption_v: tuple[float, float]
    float_v: tuple[float, float]
    never_above_v: float


def limits_of(case: Case) -> Limits:
    """What all batteries of a box bear, and what its own needs."""
    banks = case.banks
    windows = [(bank.chemistry.window, bank.volts_scale) for bank in banks]
    own, scale = windows[0]
    absorption = min(window.absorption_v[1] * by for window, by in windows)
    floating = min(window.float_v[1] * by for window, by in windows)
    return Limits(
        (min(own.absorption_v[0] * scale, absorption), absorption),
        (min(own.float_v[0] * scale, floating), floating),
        min(bank.chemistry.never_above_v * bank.volts_scale for bank in banks),
    )


def absorption_to_set(case: Case, profile: Profile) -> float:
    """The absorption voltage to key in [V]: the plan's, unless a battery does not bear it."""
    return _bearable(case, profile.absorption_v, limits_of(case).absorption_v[1])


def float_to_set(case: Case, profile: Profile) -> float:
    """The float voltage to key in [V]: the plan's, never above absorption."""
    asked = _bearable(case, profile.float_v, limits_of(case).float_v[1])
    return min(asked, absorption_to_set(case, profile))


def _bearable(case: Case, asked_v: float, usual_most_v: float) -> float:
    asked = asked_v * case.bank.system_v / CLASS_V
    return usual_most_v if asked > limits_of(case).never_above_v + 1e-9 else asked


def voltage_rows(case: Case, profile: Profile) -> Iterator[SetPoint]:
    """Absorption, its end, float, equalising and temperature; of a trickle charger its voltage."""
    chemistry, limits = case.bank.chemistry, limits_of(case)
    if profile.one_voltage:
        yield replace(_float(case, profile, limits), key="voltage", name="Its one voltage")
    else:
        yield _absorption(case, profile, limits)
        yield _absorption_end(case, profile)
        yield _absorption_time(case, profile)
        yield _float(case, profile, limits)
    yield _equalising(case, chemistry)
    yield _temperature(chemistry, case.bank.volts_scale, profile.compensated)
    if chemistry.cold.barred_below_c >= 0.0:
        yield _cold(chemistry)


def preset_of(case: Case) -> str:
    """Which preset to take on a charger that has switches or a list of kinds."""
    limits, name = limits_of(case), case.bank.chemistry.name
    text = f"With presets only: the setting of at most {volts(limits.absorption_v[1])}"
    if case.bank.chemistry.lead:
        text += f", as near to it as there is; {name} in its book"
    else:
        text += f" and at least {volts(limits.absorption_v[0])}; {name} in its book"
    if not case.bank.chemistry.vented:
        text += ", without equalising or desulphating"
    return f"{text}."


def _absorption(case: Case, profile: Profile, limits: Limits) -> SetPoint:
    low, high = limits.absorption_v
    value = absorption_to_set(case, profile)
    asked = profile.absorption_v * case.bank.system_v / CLASS_V
    lead = case.bank.chemistry.lead
    if abs(value - asked) > ROUNDS_V:
        note = (
            f"The plan has {volts(asked)}, above {volts(limits.never_above_v)}: change it there, "
            "too."
        )
    elif value > high + ROUNDS_V:
        note = "Above what is usual: only where the battery's own sheet says so."
    elif value < low - ROUNDS_V:
        note = (
            "Below what is usual: lead is never quite filled by it."
            if lead
            else "Below what is usual: it fills more slowly, and not quite."
        )
    else:
        note = ""
    return SetPoint(
        "absorption",
        "Absorption",
        volts(value),
        f"{volts_span(low, high)}, never above {volts(limits.never_above_v)}",
        "The voltage at which the last part goes in.",
        "Too high: cells gas, swell or burn. Too low: "
        + ("it is never full, and sulphates." if lead else "it takes longer and is not quite full.")
        + (" Both batteries must bear it." if len(case.banks) > 1 else ""),
        note,
    )


def _absorption_end(case: Case, profile: Profile) -> SetPoint:
    window, capacity = case.bank.chemistry.window, case.bank.capacity_ah
    tail = case.bank.chemistry.tail_c if profile.tail_c is None else profile.tail_c
    low, high = window.tail_c
    return SetPoint(
        "tail",
        "Absorption ends under",
        amps(tail * capacity),
        f"{amps(low * capacity)} to {amps(high * capacity)}, {percent_span(low, high)} of capacity",
        "So little flows when it is full.",
        "Ended by the clock alone it is cut short, or held too long.",
    )


def _absorption_time(case: Case, profile: Profile) -> SetPoint:
    low, high = case.bank.chemistry.window.absorption_h
    hours = profile.absorption_hours or case.bank.chemistry.absorption_hours
    return SetPoint(
        "time",
        "Longest absorption",
        f"{hours:g} h",
        f"{low:g} to {high:g} h",
        "Ends it where the current never falls so low, because something draws.",
        "Held there for days it ages."
        if not case.bank.chemistry.lead
        else "Too short: never full. Without an end: it dries out.",
    )


def _float(case: Case, profile: Profile, limits: Limits) -> SetPoint:
    chemistry = case.bank.chemistry
    low, high = limits.float_v
    value = float_to_set(case, profile)
    asked = profile.float_v * case.bank.system_v / CLASS_V
    if abs(value - asked) > ROUNDS_V:
        note = f"The plan has {volts(asked)}: change it there, too."
    elif value > high + ROUNDS_V:
        note = "Above what is usual: held there for days it ages."
    else:
        note = ""
    return SetPoint(
        "float",
        "Float",
        volts(value),
        volts_span(low, high) + ("" if chemistry.lead else ", or off"),
        "Carries what draws while the source lasts, with the battery full.",
        "Too high: it ages or loses water. Too low: the battery is used while the sun shines.",
        note,
    )


def _equalising(case: Case, chemistry: Chemistry) -> SetPoint:
    if chemistry.vented:
        return SetPoint(
            "equalise",
            "Equalising",
            "only by hand",
            f"at most {volts(chemistry.never_above_v * case.bank.volts_scale)}, watched",
            "Mixes the acid again, once its water was looked at and nothing else is connected.",
            "By itself it boils water away, and its voltage harms what is plugged in.",
        )
    return SetPoint(
        "equalise",
        "Equalising, desulphating",
        "off",
        "off",
        "Only flooded cells bear it.",
        "Sealed cells vent for good; lithium is destroyed.",
    )


def _temperature(chemistry: Chemistry, scale: float, compensated: bool) -> SetPoint:
    per_k = 1000.0 * chemistry.compensation_v_per_k * scale
    if per_k == 0.0:
        return SetPoint(
            "compensation",
            "Temperature compensation",
            "off, 0 mV a degree",
            "off",
            "Lithium wants the same voltage warm and cold.",
            "In frost the voltage would climb over what cells bear.",
            "The plan has it on: switch it off there, too." if compensated else "",
        )
    return SetPoint(
        "compensation",
        "Temperature compensation",
        f"{per_k:.0f} mV/K, from {celsius(25)}",
        f"{1.25 * per_k:.0f} to {0.75 * per_k:.0f} mV/K, its sensor on a battery post",
        "Lead wants more in the cold and less in the heat.",
        "Without it: half full in winter, dried out in summer.",
        "" if compensated else "The plan has it off: tick it there once it is on.",
    )


def _cold(chemistry: Chemistry) -> SetPoint:
    below = chemistry.cold.barred_below_c
    return SetPoint(
        "cold",
        "No charge below",
        celsius(below),
        f"{celsius(below, unit=False)} to {celsius(below + 5)}, its sensor on the battery",
        "Below freezing lithium plates out, and what is lost is lost.",
        "The battery's own management should do it, too: two that guard are better than one.",
    )


def current_row(case: Case, limit_a: float, half: bool = False) -> SetPoint:
    """How much a charger may give at the most."""
    bears = case.bank.chemistry.charge_limit_c * case.bank.capacity_ah
    value = min(limit_a, bears)
    note = ""
    if limit_a > bears + 1e-9:
        note = f"It could give {amps(limit_a)}: the battery takes {amps(bears)} at the most."
    return SetPoint(
        "current",
        "Charge current",
        amps(value) + (", half current" if half else ""),
        f"up to {amps(bears)} from all chargers together",
        "What the battery bears for hours.",
        "More heats the cells; their management cuts the charge off.",
        note,
    )
