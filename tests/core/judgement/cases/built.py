"""Boxes built to stand a little past or before a threshold."""

from __future__ import annotations

from dataclasses import replace

from oddkettle.core.loads.demand import Appliance, Window
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.case import Case, Surroundings
from oddkettle.core.sources.alternator import Alternator
from oddkettle.core.sources.coupling import Coupling
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.panel import Label
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp
from tests.core.judgement.test_judgement import mains, sunny
from tests.core.judgement.test_sentences import (
    ROOF,
)


def closed(amps: float) -> Case:
    return a_case(mains=mains(amps), surroundings=Surroundings(vents=False))


def fridge(amps: float = 14.9, minutes: int = 180, **more: object) -> Case:
    """A fridge on the box while the vehicle drives, on a charger of so many amps."""
    cold = Appliance("f", "Fridge", 45.0, "12v", (Window(0, 1440),), pattern=Fridge(), **more)  # type: ignore[arg-type]
    return a_case(
        vehicle=(DcDc("v", "Charger", amps, 0.9),),
        blocks=(Block("drive", 0, 600, 0, 600 + minutes),),
        appliances=(cold,),
        soc0=0.5,
    )


def idling(idles: bool) -> Case:
    """A charger that draws 17 A from 40 A: under a half, over a third."""
    charger = DcDc("v", "Charger", 15.0, 0.9, Alternator(rated_a=40.0))
    blocks = (Block("drive", 0, 600, 0, 720, idles),)
    return a_case(vehicle=(charger,), blocks=blocks, soc0=0.3)


def on_pwm(vmp_v: float) -> Case:
    """A panel on a PWM controller; its cells are hottest at some 50 C, where Vmp is .88 of it."""
    panel = replace(ROOF, label=Label(24.0, vmp_v, 5.8, 5.4))
    return sunny(SunInput("s", "Sun", (panel,), Controller(9.0, 1.0, "pwm")), soc0=0.2)


def joined(limit_a: float, *members: str) -> Case:
    """Sun and mains on one limit."""
    array = SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0))
    joining = Coupling("combined", limit_a, members)
    return a_case(
        sun=(array,),
        mains=mains(10.0),
        standby=True,
        joining=joining,
        soc0=0.1,
        appliances=(lamp(100.0),),
    )


def silent(noisy: bool = True, minutes: int = 60, **more: object) -> Case:
    charger = replace(mains(5.0)[0], noisy=noisy)
    quiet = (Window(600, 600 + minutes),)
    return a_case(mains=(charger,), standby=True, soc0=0.1, quiet=quiet, **more)
