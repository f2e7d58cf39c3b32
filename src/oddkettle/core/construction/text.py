"""How circuits are said, on screen and on paper alike."""

from __future__ import annotations

from oddkettle.core.construction.parts.lines import Line
from oddkettle.core.construction.wiring.cable import (
    BUNDLED_SHARE,
    ENGINE_BAY_SHARE,
    ambient_share,
    free_air_a,
    size_text,
    strand_ohm_m,
)
from oddkettle.core.construction.wiring.circuits import Circuit, Role
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.fuses import FAMILIES, LOAD_FACTOR
from oddkettle.core.construction.wiring.panel_strings import LIGHT_FACTOR, PANEL_BEARS_A, back_a
from oddkettle.core.simulation.own_wiring import Series, Wiring
from oddkettle.core.units.quantity import celsius

INSULATION = f"insulation for {celsius(90)} to {celsius(105)}"


def cable_text(circuit: Circuit, series: Series) -> str:
    """Its cable: size and length one way."""
    if circuit.cable_mm2 is None:
        return "no standard size"
    return size_text(circuit.cable_mm2, series)


def fuse_text(circuit: Circuit, numbers: dict[str, int]) -> str:
    """What protects it."""
    if circuit.fuse_with is not None:
        return f"the fuse of circuit {numbers.get(circuit.fuse_with, 0)}"
    if circuit.protection == "none" or circuit.family is None:
        return "nothing"
    name = FAMILIES[circuit.family].name
    size = "no standard size" if circuit.fuse_a is None else f"{circuit.fuse_a:g} A"
    many = f"{circuit.fuses} x " if circuit.fuses > 1 else ""
    strings = f"; {strings_say(circuit)}" if circuit.string_fuse_a else ""
    return f"{many}{size} {name}{strings}{_posts_text(circuit)}"


def _posts_text(circuit: Circuit) -> str:
    """The fuse at each battery of a bank in parallel."""
    posts = circuit.need.posts
    if posts < 2:
        return ""
    if circuit.post_family is None:
        return f"; none that suits at each of {posts} batteries"
    name = FAMILIES[circuit.post_family].name
    return f"; {circuit.post_fuse_a:g} A {name} at each of {posts} batteries"


def short_text(circuit: Circuit, most_v: float) -> str:
    """What a short sends through its protection, and what that can break."""
    if circuit.family is None or circuit.short_a <= 0.0:
        return ""
    short = f"short {_kiloamps(circuit.short_a)}"
    if circuit.limited:
        return f"{short}, held by the class T"
    volts = most_v if circuit.need.most_v is None else max(circuit.need.most_v, most_v)
    return f"{short}, breaks {_kiloamps(FAMILIES[circuit.family].breaks_a(volts))}"


def _kiloamps(amps: float) -> str:
    return f"{amps / 1000:.1f} kA" if amps >= 950 else f"{amps:.0f} A"


def strings_say(circuit: Circuit) -> str:
    """The fuses in the strings of panels."""
    return f"{circuit.string_fuse_a:g} A in each of {circuit.need.strings:g} strings"


def connector_text(circuit: Circuit) -> str:
    """How it is joined."""
    return CONNECTORS[circuit.connector].name


def returns_text(circuit: Circuit) -> str:
    """Where its negative goes."""
    if circuit.need.role == "battery":
        return "through the shunt"
    return "load side" if circuit.returns == "load_side" else "battery side, past the shunt"


def lost_words(wh: float) -> str:
    """What becomes heat, the verb with it."""
    return f"{wh:.1f} Wh become heat" if round(wh, 1) > 0.0 else "Next to nothing becomes heat"


def cost_text(circuit: Circuit) -> str:
    """What its drop costs, in a sentence."""
    lost = f"{lost_words(circuit.lost_wh)} in it on this trip."
    if circuit.need.role == "charge":
        return (
            f"{lost} At full current the charger sees {circuit.drop_v:.2f} V more than the "
            "battery gets, and goes over to absorption so much early."
        )
    if circuit.need.role in {"panel", "feed"}:
        return f"{lost} The charger works with {circuit.drop_v:.2f} V less at full current."
    return f"{lost} What hangs on it sees {circuit.drop_v:.2f} V less at full current."


def count_text(line: Line) -> str:
    """How many, or how long."""
    return f"{line.article.count:g} {line.article.unit}".strip()


def how_made(circuit: Circuit, wiring: Wiring) -> tuple[str, ...]:
    """The sums behind a circuit's figures, one a line."""
    need = circuit.need
    lines = [
        f"{need.continuous_a:.1f} A for hours: {_whence(need.role)}.",
        f"Fuse: {LOAD_FACTOR:g} x {need.continuous_a:.1f} A = "
        f"{LOAD_FACTOR * need.continuous_a:.1f} A at least, then the next standard size"
        + (
            "."
            if need.least_a <= need.continuous_a
            else f"; made for {LOAD_FACTOR * need.least_a:g} A, for something else is plugged in "
            "tomorrow."
        ),
    ]
    if need.role == "feed" and circuit.fuses == 1:
        lines.append(
            "It sits at the starter battery; the house battery's end is protected by the fuse of "
            "the charger's output."
        )
    if need.strings > 1.0:
        back = back_a(need.strings, need.string_a)
        more = "more than" if back > PANEL_BEARS_A else "within"
        lines.append(
            f"A failed string: the other {need.strings - 1:g} x {need.string_a:.1f} A x "
            f"{LIGHT_FACTOR:g} = {back:.1f} A flow into it, {more} the {PANEL_BEARS_A:g} A of most "
            "panels' labels."
        )
    if circuit.cable_mm2 is None:
        return (*lines, circuit.trouble)
    full_a = need.continuous_a if need.full_a is None else need.full_a
    lines.append(
        f"Drop: 2 x {circuit.run_m:g} m of strand at "
        f"{1000 * strand_ohm_m(circuit.cable_mm2):.3g} mOhm/m, as warm as its load makes it "
        f"({celsius(circuit.warm_c, '.0f')}), and its contacts: {1000 * circuit.own_ohm:.2f} mOhm"
        + (
            f"; the battery's lead {1000 * circuit.before_ohm:.2f} mOhm"
            if circuit.before_ohm
            else ""
        )
        + f"; x {full_a:.1f} A = {circuit.drop_v:.2f} V, "
        f"{100 * circuit.drop_share:.1f} % of {need.volts:.1f} V; "
        f"{100 * circuit.most_share:.0f} % allowed."
    )
    lines.append(_ampacity_sum(circuit, wiring))
    if circuit.short_a:
        lines.append(
            f"Short circuit: about {circuit.short_a:.0f} A at the most, from every source that can "
            "feed it, along the cable in between; "
            + (
                "a class T fuse at the battery ends it before that."
                if circuit.limited
                else "its protection must break that."
            )
        )
    return tuple(lines)


def _whence(role: Role) -> str:
    """Where a circuit's current comes from."""
    return {
        "battery": "all that can run at once with the inverter at its rating, or all sources "
        "together, whichever is more",
        "second": "its share of the battery's current by size",
        "panel": "short-circuit current of the panels x 1.25 for light above the standard's",
        "feed": "the charger's output over its efficiency, at the feed's own lowest voltage",
        "charge": "the charger's rating",
        "inverter": "its rating over its efficiency, at the battery's cut-off voltage",
        "converter": "its 12 V output over its efficiency, at the battery's cut-off voltage",
        "low": "the converter's rating",
        "outlet": "the appliances' power at the battery's cut-off voltage, and what is foreseen",
        "usb": "the appliances' power with the converter's loss, at the cut-off voltage",
        "heater": "the pads' power",
        "sense": "a monitor's own draw",
    }[role]


def _ampacity_sum(circuit: Circuit, wiring: Wiring) -> str:
    free = free_air_a(circuit.cable_mm2 or 0.0)
    factors = []
    if circuit.bundled:
        factors.append(f"{BUNDLED_SHARE:g} in a bundle")
    if circuit.engine_bay:
        factors.append(f"{ENGINE_BAY_SHARE:g} in an engine bay")
    share = ambient_share(wiring.ambient_c)
    if share < 1.0:
        factors.append(f"{share:.2f} for {celsius(wiring.ambient_c)} about it")
    product = "".join(f" x {factor}" for factor in factors)
    return (
        f"Bears {free:.0f} A in free air{product} = {circuit.ampacity_a:.0f} A, with "
        f"{INSULATION}; PVC of {celsius(70)} bears three quarters of it."
    )
