"""The compiled step against one written apart from it, on boxes that do all that boxes do."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from numpy.typing import NDArray

from oddkettle.core.battery.bank import Bank, bank_tables
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.battery.temperature import Housing
from oddkettle.core.kernel.records import ASK, BANK_STATE, CHARGER, OFFER, lay
from oddkettle.core.simulation.kernel_inputs import Demand, Sources, drive
from tests.physics.plain_box import PlainBank, PlainBox, PlainCharger
from tests.support.tiers import by_day

STEPS = 240
STEP_H = 1.0 / 12.0
HOUR = 12
Floats = NDArray[np.float64]


def by_the_hour(rng: np.random.Generator, most: float, share: float) -> Floats:
    """Something that changes every hour and is nothing in the rest of them."""
    hours = rng.uniform(0.1, 1.0, STEPS // HOUR) * (rng.random(STEPS // HOUR) < share)
    return np.repeat(most * hours, HOUR)


def a_box(
    seed: int,
    chemistries: tuple[Chemistry, ...],
    *,
    soc: tuple[float, ...],
    load_w: float,
    air_c: float = 20.0,
    relay: bool | float = False,
    shared_a: float = 1e12,
    heater: tuple[float, float, float] = (0.0, 4.0, 8.0),
    shed_below: tuple[float, float] = (0.4, 0.25),
) -> tuple[tuple[Any, ...], Sources, Demand, Any, Floats]:
    """A bank of 100 Ah, perhaps one of 45 Ah on a thin lead; two chargers, perhaps a relay."""
    rng = np.random.default_rng(seed)
    sizes, links = (100.0, 45.0), (0.0, 12.0)
    banks = tuple(
        bank_tables(Bank(kind, ah, housing=Housing(), link_mohm=link), STEP_H)
        for kind, ah, link in zip(chemistries, sizes, links, strict=False)
    )
    main = chemistries[0]
    wires = np.array([14.0 if relay is True else relay, 0.0, 0.0] if relay else [0.0, 0.0])
    chargers = lay(
        CHARGER,
        feed_s=wires,
        absorb_v=main.absorption_v - 0.1 * np.arange(len(wires)),
        float_v=main.float_v,
        tail_a=2.0,
        absorb_steps=20.0,
        comp_v_per_k=-0.024 if main is not LIFEPO4 else 0.0,
        shared=(wires == 0.0).astype(float),
    )
    offers = np.zeros((STEPS, len(wires)), OFFER)
    for j, wire in enumerate(wires):
        if wire:
            offers["emf_v"][:, j] = 14.1
            offers["limit_a"][:, j] = 60.0 * (by_the_hour(rng, 1.0, 0.4) > 0)
            offers["power_w"][:, j] = by_the_hour(rng, 1.0, 0.5) > 0
        else:
            offers["power_w"][:, j] = by_the_hour(rng, 400.0, 0.6)
            offers["limit_a"][:, j] = np.where(offers["power_w"][:, j] > 0.0, 18.0 + 4.0 * j, 0.0)
    asked = lay(
        ASK,
        power_w=by_the_hour(rng, load_w, 0.7)[:, None] * np.array([1.0, 0.6, 0.2]),
        current_a=by_the_hour(rng, 3.0, 0.4)[:, None] * np.array([1.0, 1.0, 0.0]),
        conductance_s=by_the_hour(rng, 0.1, 0.4)[:, None] * np.array([1.0, 0.5, 0.5]),
    )
    demand = Demand(asked, np.array(shed_below), heater)
    start = lay(BANK_STATE, soc=np.array(soc), temperature_c=air_c)
    return banks, Sources(offers, chargers, shared_a), demand, start, np.full(STEPS, air_c)


BOXES: dict[str, tuple[Any, ...]] = {
    "lithium, two chargers": a_box(1, (LIFEPO4,), soc=(0.55,), load_w=150.0),
    "lithium under one shared limit": a_box(2, (LIFEPO4,), soc=(0.7,), load_w=120.0, shared_a=24.0),
    "lead that cuts out and comes back": a_box(3, (AGM,), soc=(0.3,), load_w=900.0),
    "wet lead in the warm": a_box(4, (FLOODED,), soc=(0.9,), load_w=100.0, air_c=33.0),
    "lead on a relay, forced at times": a_box(5, (AGM,), soc=(0.5,), load_w=200.0, relay=True),
    "lithium on a relay": a_box(6, (LIFEPO4,), soc=(0.2,), load_w=260.0, relay=True),
    "lithium on a relay's thin wire": a_box(13, (LIFEPO4,), soc=(0.3,), load_w=120.0, relay=0.8),
    "two lithium banks": a_box(7, (LIFEPO4, LIFEPO4), soc=(0.3, 0.9), load_w=300.0),
    "lead beside lead, emptied": a_box(
        8, (AGM, AGM), soc=(0.5, 0.2), load_w=1200.0, shed_below=(0.1, 0.05)
    ),
    "lithium warmed in the frost": a_box(
        9, (LIFEPO4,), soc=(0.6,), load_w=60.0, air_c=-9.0, heater=(60.0, 3.0, 8.0)
    ),
    "lithium that must charge gently": a_box(10, (LIFEPO4,), soc=(0.5,), load_w=60.0, air_c=3.0),
    "nickel lithium run down": a_box(
        11, (CHEMISTRIES["nmc"],), soc=(0.3,), load_w=1200.0, shed_below=(0.1, 0.05)
    ),
    "two lithium banks run dry": a_box(
        12, (LIFEPO4, LIFEPO4), soc=(0.2, 0.12), load_w=1500.0, shed_below=(0.1, 0.05)
    ),
}


@pytest.mark.parametrize("name", by_day(BOXES, list(BOXES)[::3]))
def test_a_step_written_apart_finds_the_same(name: str) -> None:
    """Levels to a few millionths and volts to a millivolt, in each of 240 steps."""
    tables, sources, demand, start, air_c = BOXES[name]
    track = drive(tables, sources, demand, start, air_c)
    box = PlainBox(
        [
            PlainBank(t, float(s["soc"]), float(s["temperature_c"]))
            for t, s in zip(tables, start, strict=True)
        ],
        [PlainCharger(settings) for settings in sources.chargers],
        list(demand.shed_below),
        sources.shared_a,
        demand.heater,
    )
    for i in range(STEPS):
        for b, bank in enumerate(box.banks):
            # Each step from the same state: what differs is that step's own doing.
            bank.soc, bank.lag = float(track.soc[i, b]), float(track.lag[i, b])
            bank.celsius = float(track.battery_c[i, b])
        volts, into, served = box.step(sources.offers[i], demand.asked[i], float(air_c[i]))
        found = [bank.soc for bank in box.banks] + [bank.celsius for bank in box.banks]
        told = np.concatenate([track.soc[i + 1], track.battery_c[i + 1]])
        at = f"{name}, step {i}"
        assert track.shed[i] == box.off, at
        assert track.served[i] == pytest.approx(served, abs=5e-4), at
        assert track.bus_v[i] == pytest.approx(volts, abs=1e-3), at
        # Where the box cuts out within the step, half a thousandth of the load is some of these.
        near_a = 0.05 if 0.0 < served < 1.0 else 0.003
        assert track.into_bank_a[i] == pytest.approx(into, abs=near_a, rel=2e-3), at
        assert told == pytest.approx(found, abs=2e-6, rel=2e-5), at
        taken = [charger.taken for charger in box.chargers]
        assert track.taken_a[i] == pytest.approx(taken, abs=near_a, rel=2e-3), at
        assert list(track.stage[i]) == [charger.stage for charger in box.chargers], at


def test_these_boxes_do_all_that_a_box_does() -> None:
    """Else the comparison would be of boxes at rest."""
    tracks = {name: drive(*given) for name, given in BOXES.items()}
    assert {stage for track in tracks.values() for stage in np.unique(track.stage)} == {0, 1, 2}
    assert {off for track in tracks.values() for off in np.unique(track.shed)} == {0, 1, 2}
    assert sum(((t.served > 0) & (t.served < 1)).any() for t in tracks.values()) >= 3
    assert any((track.taken_a < 0).any() for track in tracks.values())
    assert any((track.heater_w > 0).any() for track in tracks.values())
