"""Checks of a box that rests: at home, and put away for a season."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.procedures.check import Check
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.quantity import celsius


def at_home(run: Run, board: Board) -> Iterator[Check]:
    """What is done on the day one comes home."""
    yield Check(
        "home-full",
        "Charge it through absorption.",
        "until the charger floats, or the current is below "
        f"{0.03 * run.case.bank.capacity_ah:.1f} A",
        "the counter is set right, lead is saved from sulphate",
    )
    yield Check("home-off", "Off: panels first, then the battery.")
    yield Check("home-look", "Look at every lug, plug and cable for heat and wear.")
    yield Check("home-log", "The last counter readings into the log.")
    for c in board.circuits:
        if c.need.role == "feed":
            yield Check("home-feed", "The vehicle's lead unplugged and its end covered.")
            return


def for_storage(run: Run) -> Iterator[Check]:
    """What is done before it is put away for months."""
    bank = run.case.bank
    low, high = bank.chemistry.store_level
    word = f"{100 * low:.0f} %" if low == high else f"{100 * low:.0f} to {100 * high:.0f} %"
    lead = bank.chemistry.lead
    yield Check(
        "store-level",
        f"Bring it to {word}: {bank.chemistry.name} is stored so.",
        f"{expect.rested_span(bank, low, high).text} rested",
        "lead sulphates when it is not full" if lead else "lithium ages fastest when it is full",
    )
    yield Check(
        "store-off", "Isolator off, monitor's supply out if it draws.", "0.00 A at the posts"
    )
    leak = bank.chemistry.self_discharge_month
    months = 3.0 if lead else 6.0
    yield Check(
        "store-again",
        f"Look at it again after {months:.0f} months.",
        f"{100 * leak * months:.0f} points lower at {celsius(25)}",
        "it discharges by itself",
    )
    yield Check("store-place", "Dry, cool, above freezing, out of children's reach.")
    if bank.chemistry.vented:
        yield Check(
            "store-water",
            "Cells topped up with distilled water after charging.",
            "to the maker's mark",
        )
