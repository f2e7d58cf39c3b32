"""Prospective short-circuit current: what a dead short draws through each device, at the most.

Every source that can feed a fault counts, along the cable in between: both banks through their
own leads, the starter battery through a relay's feed. Resistances are those of a real, charged
battery and on the low side, not the slow ones that a run works with; contacts are left out.
"""

from __future__ import annotations

from oddkettle.core.battery.bank import Bank, open_circuit_v
from oddkettle.core.construction.wiring.cable import run_ohm
from oddkettle.core.construction.wiring.circuits import Circuit
from oddkettle.core.construction.wiring.currents import FULL
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.relay import Relay
from oddkettle.core.units.conversion import ohms_from_milliohms

STARTER_SHORT_A = 3_000.0
"""Of a starter battery of up to 1,100 A of cranking current; small ones give half [textbook]."""
STARTER_V = 12.8
BRANCH_OHM = ohms_from_milliohms(0.3)
"""A battery's own leads to the joint of a bank in parallel, with the fuse at its post: a quarter of
a metre of thick cable and .2 mOhm of a class T fuse [judgement]."""


def rested_v(bank: Bank) -> float:
    """Rested voltage of a full bank [V]."""
    return float(open_circuit_v(bank.chemistry, FULL)[0]) * bank.volts_scale


def battery_ohm(bank: Bank) -> float:
    """Resistance that a dead short meets in a full bank, joined at its posts [ohm]."""
    return string_ohm(bank) / bank.parallel


def string_ohm(bank: Bank) -> float:
    """The same of one string of its batteries [ohm]: by 1/Ah, and by series.

    Links, posts and switches do not shrink with more amp hours: a 12 V battery keeps a floor.
    """
    chemistry = bank.chemistry
    cells = chemistry.short_mohm * 100.0 / bank.battery_ah
    return ohms_from_milliohms(max(cells, chemistry.short_floor_mohm)) * bank.volts_scale


def bank_behind(run: Run, circuit: str) -> Bank | None:
    """The bank whose own lead to the bar a circuit is."""
    if circuit == "second":
        return None if run.case.second is None else run.case.second.bank
    return run.case.bank if circuit == "battery" else None


def short_at_a_post_a(run: Run, circuit: str) -> float:
    """The most that a short sends through the fuse at one post of a bank in parallel [A].

    Either its own battery feeds a fault right behind the fuse, or all the others feed one that
    fails: each through its own leads and fuse, and together through those of the failing one.
    circuit : the bank's lead to the bar
    """
    bank = bank_behind(run, circuit)
    others = 0 if bank is None else bank.parallel - 1
    if bank is None or others < 1:
        return 0.0
    own_ohm = string_ohm(bank)
    return rested_v(bank) / min(own_ohm, (own_ohm + BRANCH_OHM) / others + BRANCH_OHM)


def short_circuit_a(bank: Bank) -> float:
    """What a full bank gives into a dead short at its posts [A]."""
    return rested_v(bank) / battery_ohm(bank)


def _through(volts: float, inside_ohm: float, lead: Circuit | None) -> float:
    """What a source gives into a short at the bar, along its lead [A]."""
    area = None if lead is None else lead.cable_mm2
    lead_ohm = run_ohm(lead.run_m, area) if lead is not None and area else 0.0
    return volts / (inside_ohm + lead_ohm)


def short_at_bar_a(run: Run, leads: dict[str, Circuit]) -> float:
    """A dead short at the positive bar, fed by every source at once [A].

    leads : circuits by their key, as far as they are made: "battery", "second", "feed-..."
    """
    return sum(_fed_by(run, leads).values())


def _fed_by(run: Run, leads: dict[str, Circuit]) -> dict[str, float]:
    case = run.case
    bank = case.bank
    fed = {"battery": _through(rested_v(bank), battery_ohm(bank), leads.get("battery"))}
    if case.second is not None:
        other = case.second.bank
        fed["second"] = _through(rested_v(other), battery_ohm(other), leads.get("second"))
    for source in case.vehicle:
        if isinstance(source, Relay):
            key = f"feed-{source.key}"
            fed[key] = _through(STARTER_V, STARTER_V / STARTER_SHORT_A, leads.get(key))
    return fed


def short_through_a(run: Run, leads: dict[str, Circuit], circuit: str) -> float:
    """The most that a short sends through the device of a lead to the bar [A].

    Either its own source feeds a fault behind it, at the posts' full strength, or all the others
    feed one before it.
    """
    fed = _fed_by(run, leads)
    others = sum(amps for key, amps in fed.items() if key != circuit)
    bank = bank_behind(run, circuit)
    return max(STARTER_SHORT_A if bank is None else short_circuit_a(bank), others)
