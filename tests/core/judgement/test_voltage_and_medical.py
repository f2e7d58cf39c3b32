"""Things of one voltage in a box of another, and machines that health hangs on."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from tests.core.boxes import a_case, lamp
from tests.plan.test_document import put

BANK_24 = Bank(LIFEPO4, 100.0, series=2, system_v=24.0)


def judged(case: Case) -> dict[str, Judgement]:
    run = simulate(case)
    return {one.code: one for one in judge(run, keep_ledger(run))}


def test_a_12_v_lamp_on_a_24_v_box_is_a_danger_with_the_converter_that_it_wants() -> None:
    said = judged(a_case(bank=BANK_24, appliances=(lamp(54.0),)))["converter-missing"]
    assert said.severity == "danger"
    # 1.25 x 54 W / 12 V = 5.6 A
    assert "A step-down converter of 10 A" in said.remedy
    assert said.numbers[1].value == pytest.approx(5.625)


def test_what_bears_both_voltages_and_what_the_box_matches_is_not_spoken_of() -> None:
    both = replace(lamp(54.0), takes_24v=True)
    assert "converter-missing" not in judged(a_case(bank=BANK_24, appliances=(both,)))
    assert "converter-missing" not in judged(a_case(appliances=(lamp(54.0),)))


def test_a_relay_between_unequal_voltages_is_refused_with_what_would_do(
    document: dict[str, Any],
) -> None:
    box = document["box"]
    box["vehicle"][0] |= {"kind": "relay"}
    case_from_plan(Plan.model_validate(document))
    box["system_v"], box["battery"]["series"] = 24, 2
    box["battery"]["capacity_ah"] = 100
    with pytest.raises(PlanError, match="a relay joins equal voltages only") as caught:
        case_from_plan(Plan.model_validate(document))
    assert caught.value.where == ("box", "vehicle", 0, "kind")
    assert "DC-DC charger" in caught.value.remedy
    box["vehicle"][0]["alternator"] = {"volts": 28.2, "smart_v": 25}
    case_from_plan(Plan.model_validate(document))


def test_a_machine_that_health_hangs_on_wants_a_second_source_whatever_the_box() -> None:
    machine = replace(lamp(5.0), medical=True)
    big = Bank(LIFEPO4, 400.0)
    said = judged(a_case(bank=big, appliances=(machine,)))["medical-single-source"]
    assert said.severity == "fault"
    assert "second source" in said.remedy
    backed = replace(machine, backup=True)
    assert "medical-single-source" not in judged(a_case(bank=big, appliances=(backed,)))
    assert "medical-single-source" not in judged(a_case(bank=big, appliances=(lamp(5.0),)))


@pytest.mark.parametrize(("name", "told"), [("Breathing machine", True), ("Lamp", False)])
def test_a_machine_that_is_called_so_is_asked_about(name: str, told: bool) -> None:
    named = replace(lamp(5.0), name=name)
    assert ("medical-unmarked" in judged(a_case(appliances=(named,)))) is told
    marked = replace(named, medical=True)
    assert "medical-unmarked" not in judged(a_case(appliances=(marked,)))


def test_the_document_keeps_what_was_told_of_an_appliance(document: dict[str, Any]) -> None:
    told = put(document, "use.appliances.0.takes_24v", True)
    told = put(told, "use.appliances.0.medical", True)
    told = put(told, "use.appliances.0.backup", True)
    first = case_from_plan(Plan.model_validate(told)).appliances[0]
    assert (first.takes_24v, first.medical, first.backup) == (True, True, True)
