"""What is said where no cable or no fuse suits, and what would help."""

from __future__ import annotations

from oddkettle.core.construction.wiring.cable_run import cable_run_of
from oddkettle.core.construction.wiring.circuits import (
    Circuit,
    Need,
)
from oddkettle.core.construction.wiring.currents import cut_off_v
from oddkettle.core.construction.wiring.fuses import (
    BY_SIZE,
    FAMILIES,
    LOAD_FACTOR,
    largest_within_a,
)
from oddkettle.core.simulation.own_wiring import Family
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import CABLE_SIZES_MM2
from oddkettle.core.units.quantity import conductor


def no_cable(need: Need, run_m: float, largest: float, bears_a: float, wanted_a: float) -> str:
    """Why no cable that is sold suits."""
    if bears_a < wanted_a:
        return (
            f"{need.name} wants a cable that bears {wanted_a:.0f} A; the thickest here, "
            f"{conductor(largest)}, bears {bears_a:.0f} A."
        )
    return (
        f"{need.name} loses more than allowed over {run_m:g} m even in the thickest cable here, "
        f"{conductor(largest)}."
    )


def no_fuse(behind_a: float, family: Family | None, short_a: float) -> str:
    """Why no fuse that is sold suits."""
    wanted = LOAD_FACTOR * behind_a
    if family is None:
        return f"No fuse here breaks the {short_a:.0f} A that this bank gives into a short."
    largest = FAMILIES[family].sizes_a[-1]
    return (
        f"{behind_a:.0f} A for hours want a fuse of at least {wanted:.0f} A; the largest "
        f"{FAMILIES[family].name} here is {largest:.0f} A."
    )


def way_out(run: Run, circuit: Circuit) -> str:
    """What would do instead of a circuit for which nothing suits."""
    need, system_v = circuit.need, run.case.bank.system_v
    if need.role in {"inverter", "battery"} and run.case.inverter is not None:
        thickest = cable_run_of(circuit, run.case.wiring).bears_a(CABLE_SIZES_MM2[-1])
        largest = max(largest_within_a(thickest, family) or 0.0 for family in BY_SIZE)
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
