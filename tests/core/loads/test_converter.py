"""A step-down converter: what it loses, what hangs on it, both its circuits."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.construction.wiring.circuits import BAR, LOW_BAR
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.judgement import judge
from oddkettle.core.loads.converter import Converter, size_for
from oddkettle.core.loads.demand import Window
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.own_wiring import Choice
from oddkettle.core.simulation.run import simulate
from tests.core.boxes import a_case, lamp

BANK_24 = Bank(LIFEPO4, 100.0, series=2, system_v=24.0)
ALWAYS = (Window(0, 1440),)
STEADY = replace(lamp(46.0), windows=ALWAYS)


TEN = Converter(10.0, 0.92, 0.6)


def stepped(converter: Converter | None = TEN, **changes: object) -> Case:
    given = {"bank": BANK_24, "appliances": (STEADY,), "converter": converter, **changes}
    return a_case(**given)  # type: ignore[arg-type]


def asked_w(case: Case) -> dict[str, float]:
    return {draw.key: float(draw.asked_w.mean()) for draw in simulate(case).draws}


def test_it_takes_its_loss_and_its_idling_from_the_bus() -> None:
    # 46 W behind 92 % are 50 W of the bus; its electronics 0.6 W more.
    watts = asked_w(stepped())
    assert watts["lamp"] == pytest.approx(50.0)
    assert watts["converter-idle"] == pytest.approx(0.6)


def test_a_lamp_behind_it_no_longer_follows_the_buss_voltage() -> None:
    filament = replace(STEADY, draw="resistance")
    run = simulate(stepped(appliances=(filament,)))
    power = run.draws[0].asked
    assert np.ptp(power) == pytest.approx(0.0)
    assert power[0] == pytest.approx(50.0)


def test_what_bears_24_v_and_what_is_usb_passes_it_by() -> None:
    both = replace(STEADY, takes_24v=True)
    assert asked_w(stepped(appliances=(both,)))["lamp"] == pytest.approx(46.0)
    usb = replace(STEADY, supply="usb")
    assert asked_w(stepped(appliances=(usb,)))["lamp"] == pytest.approx(46.0 / 0.88)


def test_in_a_box_of_12_v_it_does_nothing() -> None:
    assert asked_w(stepped(bank=Bank(LIFEPO4, 100.0))) == {"lamp": pytest.approx(46.0)}


def test_every_amp_hour_is_still_accounted_for() -> None:
    run = simulate(stepped())
    ledger = keep_ledger(run)
    # 50.6 W all day: of the lamp's 50, four are lost on the way.
    lamp_flow = ledger.draws[0]
    assert lamp_flow.used.wh.sum() == pytest.approx(50.0 * 24, rel=1e-6)
    gone = sum(float(flow.used.ah.sum()) for flow in ledger.draws)
    stored = float(ledger.stored.ah.sum() + ledger.leaked.ah.sum())
    assert stored == pytest.approx(-gone, abs=1e-6)


def test_its_circuits_are_two_and_its_outlets_hang_on_the_12_v_block() -> None:
    board = board_of(simulate(stepped()))
    into, out = board.of("converter"), board.of("converter-out")
    assert into is not None
    assert out is not None
    # 10 A x 12 V / 0.92 over the lowest 21.6 V.
    assert into.need.continuous_a == pytest.approx(10 * 12 / 0.92 / 21.6)
    assert (into.need.begins, out.need.ends) == (BAR, LOW_BAR)
    assert into.fuse_a is not None
    assert out.fuse_a is not None
    outlet = next(c for c in board.circuits if c.need.role == "outlet")
    assert outlet.need.begins == LOW_BAR
    # 46 W at 12 V.
    assert outlet.need.continuous_a == pytest.approx(46.0 / 12.0)
    # A short there is bounded by the converter, not by the bank.
    assert outlet.short_a == pytest.approx(30.0)


def test_outlets_of_two_voltages_take_different_plugs() -> None:
    fan = replace(lamp(20.0), key="fan", name="Fan", takes_24v=True)
    case = stepped(appliances=(STEADY, fan))
    outlets = {
        c.need.appliances: c.connector
        for c in board_of(simulate(case)).circuits
        if c.need.role == "outlet"
    }
    assert outlets[("lamp",)] == "socket"
    assert outlets[("fan",)] == "keyed_30"
    alike = replace(
        case, wiring=replace(case.wiring, choices=(Choice("shared-1", connector="socket"),))
    )
    assert "charge-plug-shared" in codes(alike)
    assert "charge-plug-shared" not in codes(case)


def test_without_need_of_it_no_circuit_is_drawn() -> None:
    assert board_of(simulate(stepped(bank=Bank(LIFEPO4, 100.0)))).of("converter") is None
    assert board_of(simulate(stepped(converter=None))).of("converter") is None


def codes(case: Case) -> set[str]:
    run = simulate(case)
    return {one.code for one in judge(run, keep_ledger(run))}


def test_it_is_missed_when_absent_and_judged_when_too_small() -> None:
    assert "converter-missing" in codes(stepped(None))
    assert "converter-missing" not in codes(stepped())
    # 46 W at 12 V are 3.83 A.
    assert "converter-too-small" in codes(stepped(Converter(3.8)))
    assert "converter-too-small" not in codes(stepped(Converter(3.9)))


@pytest.mark.parametrize(("amps", "size"), [(4.0, 5.0), (4.1, 10.0), (48.0, 60.0), (48.1, None)])
def test_the_next_size_that_is_sold_with_a_quarter_to_spare(amps: float, size: float) -> None:
    assert size_for(amps) == size
