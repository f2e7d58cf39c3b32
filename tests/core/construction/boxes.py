"""Boards of small boxes, and the judgements on them."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.judgement import Judgement
from oddkettle.core.judgement.circuits import protection, wiring
from oddkettle.core.judgement.evidence import Evidence
from oddkettle.core.loads.demand import Inverter
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.own_wiring import Choice, Wiring
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Label, Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp

PANEL = Panel(100.0, "flat", 0.0, 180.0, False, label=Label(22.0, 18.0, 6.0, 5.5))
ROOF = SunInput("roof", "Roof", (PANEL,), Controller(8.0, 0.96))


def strings_of(
    count: int, short_a: float, series: int = 1, fuse_max_a: float | None = None
) -> SunInput:
    """So many panels of such an Isc, `series` of them in each string."""
    label = Label(22.0, 18.0, short_a, 0.9 * short_a, fuse_max_a=fuse_max_a)
    panel = replace(PANEL, power_w=18.0 * 0.9 * short_a, label=label, count=count)
    return replace(ROOF, panels=(panel,), series=series, controller=Controller(30.0, 0.96))


FEED = Feed(4.0, 10.0, 4.0)
DCDC = DcDc("dcdc", "DC-DC", 20.0, 0.92, Alternator(), feed=FEED)
MAINS = MainsCharger("mains", "Mains", 10.0, 0.9)


def full_case(*choices: Choice, **changes: Any) -> Case:
    """A box with one of everything: sun, vehicle, mains, inverter, a lamp."""
    given: dict[str, Any] = {
        "sun": (ROOF,),
        "vehicle": (DCDC,),
        "mains": (MAINS,),
        "inverter": Inverter(300.0, 6.0, 0.9),
        "appliances": (lamp(54.0, priority="first"),),
        "blocks": (Block("drive", 0, 600, 0, 660), Block("hookup", 0, 700, 0, 760)),
    }
    case = a_case(**{**given, **changes})
    return replace(case, wiring=replace(case.wiring, choices=(*case.wiring.choices, *choices)))


def fixed(circuit: str, **fields: Any) -> Case:
    """That box with something of one circuit fixed by its owner."""
    return full_case(Choice(circuit, **fields))


def wired(**fields: Any) -> Case:
    """That box with other settings of all circuits."""
    return full_case(wiring=Wiring(**fields))


def board(case: Case) -> Board:
    return board_of(simulate(case))


def ran(case: Case) -> Run:
    return simulate(case)


def wiring_judged(case: Case) -> dict[str, Judgement]:
    """Judgements on the circuits of a box, by code."""
    run = simulate(case)
    evidence = Evidence(run, keep_ledger(run))
    rules = (*wiring.RULES, *protection.RULES)
    return {one.code: one for rule in rules for one in rule(evidence)}
