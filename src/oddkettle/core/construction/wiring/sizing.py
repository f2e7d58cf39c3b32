"""Cable, fuse and connector for every circuit: the smallest that do, unless the user fixed them."""

from __future__ import annotations

from dataclasses import replace

from oddkettle.core.construction.wiring.cable import (
    CHARGING_DROP,
    OTHER_DROP,
    ampacity_a,
    drop_v,
    run_ohm,
    sizes_of,
)
from oddkettle.core.construction.wiring.circuits import (
    AT_BATTERY,
    CHARGING,
    OUTLETS,
    Board,
    Circuit,
    Need,
)
from oddkettle.core.construction.wiring.connectors import CONNECTORS, smallest_keyed
from oddkettle.core.construction.wiring.currents import cut_off_v, short_circuit_a
from oddkettle.core.construction.wiring.fuses import (
    BY_SIZE,
    FAMILIES,
    LOAD_FACTOR,
    family_for,
    largest_within_a,
    least_size_a,
)
from oddkettle.core.construction.wiring.panel_strings import (
    PANEL_BEARS_A,
    string_fuse_a,
    wants_fuses,
)
from oddkettle.core.construction.wiring.requirements import needs_of
from oddkettle.core.own_wiring import Choice, ConnectorKey, Family, Protection, Wiring
from oddkettle.core.quantity import conductor
from oddkettle.core.simulation.run import Run

FIXABLE = (
    "run_m",
    "cable_mm2",
    "protection",
    "family",
    "fuse_a",
    "connector",
    "returns",
    "bundled",
    "engine_bay",
    "disconnect",
    "string_fuses",
    "fuse_with",
)


def board_of(run: Run) -> Board:
    """The circuits of a run's box, numbered from 1, each with what was chosen for it."""
    wiring, short_a = run.case.wiring, short_circuit_a(run.case.bank)
    needs = needs_of(run)
    keys = {need.key for need in needs}
    behind = {need.key: _shares(wiring, need.key, keys) for need in needs}
    sharers: dict[str, float] = {}
    for need in needs:
        host = behind[need.key]
        if host is not None:
            sharers[host] = sharers.get(host, 0.0) + need.continuous_a
    outlets = frozenset(
        wiring.of(n.key).connector or _connector(n, frozenset()) for n in needs if n.role in OUTLETS
    )
    made: dict[str, Circuit] = {}
    for number, need in enumerate(needs, start=1):
        extra = sharers.get(need.key, 0.0)
        made[need.key] = _circuit(number, need, wiring, short_a, extra, None, outlets)
    for number, need in enumerate(needs, start=1):
        host = behind[need.key]
        if host is not None:
            made[need.key] = _circuit(number, need, wiring, short_a, 0.0, made[host], outlets)
    found = tuple(
        replace(c, trouble=c.trouble and f"{c.trouble} {_way_out(run, c)}") for c in made.values()
    )
    return Board(found, wiring, short_a)


def _shares(wiring: Wiring, key: str, keys: set[str]) -> str | None:
    """The circuit whose fuse this one shares, where there is one that has a fuse of its own.

    Two that name each other, or a chain of them, would leave nobody with a fuse.
    """
    host = wiring.of(key).fuse_with
    if host is None or host not in keys or host == key:
        return None
    return None if wiring.of(host).fuse_with in keys else host


def _circuit(
    number: int,
    need: Need,
    wiring: Wiring,
    short_a: float,
    extra_a: float,
    host: Circuit | None,
    outlets: frozenset[ConnectorKey],
) -> Circuit:
    choice = wiring.of(need.key)
    # What the box states is what was simulated: nothing said here goes before it.
    choice = replace(
        choice,
        run_m=None if "run_m" in need.stated else choice.run_m,
        cable_mm2=None if "cable_mm2" in need.stated else choice.cable_mm2,
    )
    at_battery = need.role in AT_BATTERY
    run_m = choice.run_m or need.run_m
    bundled = bool(choice.bundled)
    engine_bay = need.engine_bay if choice.engine_bay is None else choice.engine_bay
    protection = choice.protection or ("breaker" if need.role == "panel" else "fuse")
    behind_a = need.continuous_a + extra_a
    family, fuse_a = _fuse(choice, need, protection, behind_a, short_a if at_battery else 0.0)
    if host is not None:
        protection, family, fuse_a = host.protection, host.family, host.fuse_a
    most = CHARGING_DROP if need.role in CHARGING or need.must else OTHER_DROP
    full_a = need.continuous_a if need.full_a is None else need.full_a
    bears = fuse_a if fuse_a is not None else LOAD_FACTOR * behind_a

    def ampacity(area: float) -> float:
        return ampacity_a(area, bundled=bundled, engine_bay=engine_bay, ambient_c=wiring.ambient_c)

    def suits(area: float) -> bool:
        return (
            ampacity(area) >= bears - 1e-9
            and drop_v(full_a, run_m, area) <= most * need.volts + 1e-9
        )

    cable = choice.cable_mm2 or need.area_mm2
    trouble = ""
    if cable is None:
        sizes = [size.area_mm2 for size in sizes_of(wiring.series)]
        cable = next((area for area in sizes if suits(area)), None)
        if cable is None:
            trouble = _no_cable(need, run_m, sizes[-1], ampacity(sizes[-1]), bears)
    if fuse_a is None and protection != "none" and host is None:
        trouble = _no_fuse(behind_a, family, short_a if at_battery else 0.0)
    area = cable or sizes_of(wiring.series)[-1].area_mm2
    lost_v = drop_v(full_a, run_m, area)
    return Circuit(
        number=number,
        need=need,
        run_m=run_m,
        cable_mm2=cable,
        ampacity_a=ampacity(area),
        protection=protection,
        family=family,
        fuse_a=fuse_a,
        connector=choice.connector or _connector(need, outlets),
        returns=choice.returns or "load_side",
        bundled=bundled,
        engine_bay=engine_bay,
        disconnect=_disconnect(choice, need, protection),
        fuse_with=None if host is None else host.key,
        drop_v=lost_v,
        drop_share=lost_v / need.volts,
        most_share=most,
        lost_wh=need.square_ah * run_ohm(run_m, area),
        short_a=short_a if at_battery else 0.0,
        string_fuse_a=_string_fuse_a(choice, need),
        fixed=frozenset(name for name in FIXABLE if getattr(choice, name) is not None),
        trouble=trouble,
    )


def _fuse(
    choice: Choice, need: Need, protection: Protection, behind_a: float, short_a: float
) -> tuple[Family | None, float | None]:
    """(family, size); None where there is none, or none that suits."""
    if protection == "none":
        return None, None
    family = choice.family
    if protection == "breaker":
        family = "breaker"
    elif family is None or family == "breaker":
        family = family_for(behind_a, short_a) or _largest_family(short_a)
    stated = choice.fuse_a or need.fuse_a
    if stated is not None:
        return family, stated
    return family, None if family is None else least_size_a(behind_a, family)


def _largest_family(short_a: float) -> Family | None:
    """The family that goes furthest among those that break a short of `short_a`."""
    breaking = [family for family in BY_SIZE if FAMILIES[family].breaks_a >= short_a]
    return max(breaking, key=lambda family: FAMILIES[family].sizes_a[-1], default=None)


def _disconnect(choice: Choice, need: Need, protection: Protection) -> bool:
    """Whether it can be opened by hand: panels by their breaker, the battery by its isolator."""
    if choice.disconnect is not None:
        return choice.disconnect
    return need.role in {"battery", "second", "panel"} or protection == "breaker"


def _string_fuse_a(choice: Choice, need: Need) -> float | None:
    """The fuse in each string of panels [A], where there are several and they want one."""
    wanted = choice.string_fuses
    if wanted is None:
        wanted = wants_fuses(need.strings, need.string_a, need.string_bears_a or PANEL_BEARS_A)
    return string_fuse_a(need.string_a) if wanted and need.strings > 1.0 else None


def _connector(need: Need, outlets: frozenset[ConnectorKey]) -> ConnectorKey:
    """The usual connector of a role for its current; an inlet fits no outlet."""
    amps = need.continuous_a
    if need.role in {"battery", "inverter"}:
        return "lug"
    if need.role == "panel" and amps <= CONNECTORS["panel_pair"].rating_a:
        return "panel_pair"
    if need.role in {"panel", "feed", "second"}:
        return smallest_keyed(amps, outlets)
    if need.role in OUTLETS:
        plain: ConnectorKey = "usb" if need.role == "usb" else "socket"
        # Anything may be plugged in there: the fuse must not let more through than the plug bears.
        fused_a = least_size_a(amps, "blade") or LOAD_FACTOR * amps
        return plain if fused_a <= CONNECTORS[plain].rating_a else smallest_keyed(fused_a)
    return "screw" if amps <= CONNECTORS["screw"].rating_a else "lug"


def _no_cable(need: Need, run_m: float, largest: float, bears_a: float, wanted_a: float) -> str:
    if bears_a < wanted_a:
        return (
            f"{need.name} wants a cable that bears {wanted_a:.0f} A; the thickest here, "
            f"{conductor(largest)}, bears {bears_a:.0f} A."
        )
    return (
        f"{need.name} loses more than allowed over {run_m:g} m even in the thickest cable here, "
        f"{conductor(largest)}."
    )


def _no_fuse(behind_a: float, family: Family | None, short_a: float) -> str:
    wanted = LOAD_FACTOR * behind_a
    if family is None:
        return f"No fuse here breaks the {short_a:.0f} A that this bank gives into a short."
    largest = FAMILIES[family].sizes_a[-1]
    return (
        f"{behind_a:.0f} A for hours want a fuse of at least {wanted:.0f} A; the largest "
        f"{FAMILIES[family].name} here is {largest:.0f} A."
    )


def _way_out(run: Run, circuit: Circuit) -> str:
    """What would do instead of a circuit for which nothing suits."""
    need, system_v = circuit.need, run.case.bank.system_v
    if need.role in {"inverter", "battery"} and run.case.inverter is not None:
        largest = FAMILIES["terminal"].sizes_a[-1]
        per_a = cut_off_v(run) * run.case.inverter.efficiency
        # Whatever else the battery feeds leaves so much less for the inverter.
        beside_a = need.continuous_a - run.case.inverter.rating_w / per_a
        watts = (largest / LOAD_FACTOR - max(beside_a, 0.0)) * per_a
        watts = max(50.0 * (watts // 50.0), 0.0)
        other = "" if system_v >= 24 else " or a box of 24 V"
        return f"An inverter of {watts:.0f} W at most{other}."
    if circuit.drop_share > circuit.most_share:
        reach = circuit.run_m * circuit.most_share / circuit.drop_share
        return f"At most {reach:.1f} m, or a higher voltage."
    return "Split the load over two circuits, or use a higher voltage."


def largest_fuse_a(circuit: Circuit) -> float | None:
    """The largest fuse that a circuit's cable allows [A]."""
    if circuit.family is None or circuit.cable_mm2 is None:
        return None
    return largest_within_a(circuit.ampacity_a, circuit.family)
