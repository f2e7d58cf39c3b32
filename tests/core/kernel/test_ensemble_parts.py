"""Each thing that is laid inside the compiled loop, against a run of its own with the same luck."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.temperature import Heater, Housing
from oddkettle.core.kernel.ensemble import empty_outputs, initial_state
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.case import Case, LoadOutput, SecondBank
from oddkettle.core.simulation.ensemble import lay_inputs, run_ensemble, run_stretch
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.simulation.scenarios import draw_scenarios, scenario_of
from oddkettle.core.sources.coupling import Coupling
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp

EAST = Panel(80.0, "tilted", 60.0, 90.0, False)
WEST = Panel(60.0, "tilted", 60.0, 270.0, False)
NIGHTS = tuple(Block("hookup", day, 1200, day, 1380) for day in range(3))


def array(key: str, panel: Panel, kind: str = "tracking", **more: object) -> SunInput:
    control = Controller(4.0, 0.96, kind, **more)  # type: ignore[arg-type]
    return SunInput(key, key, (panel,), control)


def thing(key: str, draw: str, watts: float, **more: object) -> Appliance:
    window = Window(18 * 60, 23 * 60)
    return Appliance(key, key, watts, "12v", (window,), draw=draw, spread=0.3, **more)  # type: ignore[arg-type]


def days(**more: object) -> Case:
    """Three days of middling skies with two arrays that face apart."""
    given: dict[str, object] = {
        "clearness": (0.6,) * 3,
        "sun": (array("e", EAST), array("w", WEST)),
        "appliances": (lamp(30.0, 18.0, 24.0, spread=0.3),),
        "soc0": 0.6,
        "floor": 0.2,
    }
    return a_case(**(given | more))


MAINS = (MainsCharger("m", "Mains", 8.0, 0.9),)
BOXES: dict[str, Case] = {
    "two arrays that face apart": days(),
    "one of them on a PWM controller": days(sun=(array("e", EAST), array("w", WEST, "pwm"))),
    "a selector that takes the strongest": days(
        mains=MAINS, joining=Coupling("selector"), blocks=NIGHTS, standby=True
    ),
    "a selector that takes the first": days(
        mains=MAINS, joining=Coupling("selector", rule="in_order"), blocks=NIGHTS
    ),
    "one limit for both": days(joining=Coupling("combined", 4.0, ("e", "w"))),
    "a second bank at night": days(
        second=SecondBank(Bank(LIFEPO4, 60.0), 0.9),
        blocks=(Block("second_bank", 0, 1200, 1, 600),),
    ),
    "loads of three kinds, and one let go by level": days(
        appliances=(
            thing("p", "power", 40.0),
            thing("r", "resistance", 30.0),
            thing("c", "current", 20.0, priority="must"),
        ),
        shed={"first": 0.5, "wanted": 0.4},
    ),
    "one that goes dark": days(sun=(), soc0=0.3, floor=0.0, appliances=(lamp(30.0, spread=0.3),)),
    "a load output that lets go": days(
        bank=Bank(AGM, 60.0),
        floor=0.0,
        soc0=0.7,
        load_output=LoadOutput("e", 10.0, 12.3, 12.7, ("r",)),
        appliances=(thing("r", "resistance", 50.0), thing("p", "power", 20.0)),
    ),
    "a fridge in warm and cool air": days(
        appliances=(Appliance("f", "Fridge", 45.0, "12v", (Window(0, 1440),), pattern=Fridge()),),
        low_c=(8.0,),
        high_c=(20.0,),
    ),
    "pads in frost": days(heater=Heater(20.0), low_c=(-12.0,), high_c=(-3.0,)),
}


@pytest.mark.parametrize("name", BOXES)
def test_a_scenario_is_what_a_run_of_its_own_gives(name: str) -> None:
    case = BOXES[name]
    ran = run_ensemble(case, 6)
    for i in range(6):
        alone = simulate(case, scenario_of(case, ran.grid, ran.scenarios, i))
        off = np.abs(alone.level - ran.level[i])
        assert off.mean() < 0.008, i
        assert abs(alone.level.min() - ran.lowest[i]) < 0.02
        assert off[-1] < 0.03
        # Hours in which it is dark, or something was let go by level or by its output.
        step_h = alone.grid.step_h
        dark_h = (1.0 - alone.track.served).sum() * step_h
        assert ran.dark_h[i].sum() == pytest.approx(dark_h, abs=0.3)
        gone = (alone.track.shed > 0.0) | (alone.track.output_off > 0.0)
        assert ran.shed_h[i].sum() == pytest.approx(gone.sum() * step_h, abs=0.6)


def test_scenarios_begin_as_warm_and_as_charged_as_their_own_runs() -> None:
    """At midnight between the day's low and high, in a housing that is warmer than the air."""
    bank = Bank(LIFEPO4, 100.0, housing=Housing(offset_k=3.0))
    case = days(bank=bank, low_c=(2.0,), high_c=(22.0,))
    scenarios = draw_scenarios(case, 5)
    inputs, drawn, grid = lay_inputs(case, scenarios)
    state = initial_state(inputs, drawn)
    for i in range(5):
        run = simulate(case, scenario_of(case, grid, scenarios, i))
        assert state.banks["temperature_c"][i, 0] == pytest.approx(run.track.battery_c[0, 0])
        assert state.banks["soc"][i, 0] == pytest.approx(run.level[0])
        assert state.switches["bus_v"][i] == pytest.approx(
            float(np.interp(run.level[0], *zip(*LIFEPO4.ocv, strict=True))), abs=0.005
        )


COUNTED: dict[str, Case] = {
    "loads of three kinds": BOXES["loads of three kinds, and one let go by level"],
    "a load output that lets go": BOXES["a load output that lets go"],
    "an inverter and mains": days(
        mains=MAINS,
        blocks=NIGHTS,
        inverter=Inverter(300.0, 6.0, 0.9),
        appliances=(replace(thing("i", "power", 60.0), supply="inverter"), lamp(10.0)),
    ),
}


@pytest.mark.parametrize("name", COUNTED)
def test_what_is_counted_of_a_scenario_is_in_its_own_run_s_books(name: str) -> None:
    """What each thing used and each source gave, in Ah; what a meter at the battery counts."""
    case = COUNTED[name]
    scenarios = draw_scenarios(case, 4)
    inputs, drawn, grid = lay_inputs(case, scenarios)
    state, found = initial_state(inputs, drawn), empty_outputs(inputs, 4, counts=True)
    run_stretch(inputs, drawn, state, found, (0, grid.steps))
    plain = empty_outputs(inputs, 4)
    assert [len(part) for part in (plain.level, plain.counted, plain.gave, plain.used)] == [
        4,
        0,
        0,
        0,
    ]
    for i in range(4):
        run = simulate(case, scenario_of(case, grid, scenarios, i))
        ledger = keep_ledger(run)
        by_key = {draw.key: flow for draw, flow in zip(run.draws, ledger.draws, strict=True)}
        for a, appliance in enumerate(case.appliances):
            used = by_key[appliance.key].used.ah.sum()
            assert found.used[i, :, a].sum() == pytest.approx(used, rel=0.03, abs=0.05)
        for j, flow in enumerate(ledger.sources):
            assert found.gave[i, :, j].sum() == pytest.approx(flow.taken.ah.sum(), rel=0.04)
        amps, volts = run.track.bank_a[:, 0], run.track.bus_v
        step_h = run.grid.step_h
        for way, mask in (("in", amps > 0.0), ("out", amps < 0.0)):
            counted = found.counted[i]
            assert counted[f"ah_{way}"] == pytest.approx(
                np.abs(amps[mask]).sum() * step_h, rel=0.04
            )
            assert counted[f"wh_{way}"] == pytest.approx(
                np.abs(amps * volts)[mask].sum() * step_h, rel=0.04
            )
        given = sum(flow.taken.ah.sum() for flow in ledger.sources)
        assert found.counted[i]["gross_in"] == pytest.approx(given, rel=0.04)
        assert found.counted[i]["gross_in"] - found.counted[i]["gross_out"] == pytest.approx(
            found.counted[i]["ah_in"] - found.counted[i]["ah_out"], abs=0.2
        )
