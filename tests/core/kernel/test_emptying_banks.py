"""Boxes driven to empty: what was on its way when the load went off must go nowhere."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.simulation.case import SecondBank
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.relay import Relay
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp

NMC = CHEMISTRIES["nmc"]
ALTERNATOR = Alternator(rated_a=100.0, idle_share=0.4, own_loads_a=20.0, volts=14.2)


@pytest.mark.parametrize(
    ("watts", "large_soc", "small_soc"),
    [(900.0, 0.5, 0.3), (900.0, 0.2, 0.9), (600.0, 0.3, 0.9), (1200.0, 0.5, 0.9)],
)
def test_a_bank_that_ran_empty_into_a_load_is_free_again_when_the_load_is_cut(
    watts: float, large_soc: float, small_soc: float
) -> None:
    """One bank runs empty within a step and the box cuts out in the same step.

    What the load took of it may not be pressed into the other bank: once that made 30 V of a
    12 V box and 200 C of a small battery.
    """
    small = SecondBank(Bank(LIFEPO4, 20.0, link_mohm=5.0), soc0=small_soc, always=True)
    box = a_case(bank=Bank(LIFEPO4, 60.0), second=small, soc0=large_soc, appliances=(lamp(watts),))
    track = simulate(box).track
    assert (track.served == 0.0).any()
    # No charger is there to lift the bus over the rested voltage of a full bank.
    assert track.bus_v.max() < LIFEPO4.ocv[-1][1]
    assert track.battery_c.max() < 60.0


def test_a_relay_lifts_an_empty_bank_off_the_kink_at_its_rested_voltage() -> None:
    """The search for the bus once swung for ever between rest and the alternator's voltage."""
    relay = Relay("v", "Relay", ALTERNATOR, Feed(3.0, 30.0), fuse_a=60.0)
    box = a_case(
        bank=Bank(NMC, 35.0),
        soc0=0.0,
        vehicle=(relay,),
        appliances=(lamp(60.0, 0.0, 3.0),),
        blocks=(Block("drive", 0, 360, 0, 480),),
    )
    run = simulate(box)
    charging = run.track.into_bank_a > 1.0
    assert charging.any()
    soc, volts = zip(*NMC.ocv, strict=True)
    assert np.all(
        run.track.bus_v[charging] > np.interp(run.track.soc[:-1, 0], soc, volts)[charging]
    )
    assert np.abs(keep_ledger(run).lag_wh).max() < 0.2
