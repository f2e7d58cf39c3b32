"""The parts list: counts and lengths by hand, prices that beat guesses."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.construction.parts.cable_parts import cable_metres
from oddkettle.core.construction.parts.catalogue import battery_bulk
from oddkettle.core.construction.parts.lines import BuiltOf, Known, Line, totals_of
from oddkettle.core.construction.parts.parts_list import list_parts
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.own_wiring import Choice
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from oddkettle.core.sources.relay import Relay
from tests.core.construction.boxes import FEED, board, full_case, ran


def listed(case: Case, *known: Known, waste: float = 0.1) -> dict[str, Line]:
    run = ran(case)
    lines = list_parts(run, board(case), BuiltOf("wood", 5.0, waste), known)
    return {line.article.key: line for line in lines}


def test_cable_is_bought_red_and_black_with_waste_by_the_half_metre() -> None:
    case = full_case(Choice("charge-mains", run_m=2.3, cable_mm2=50.0))
    # 2.3 m x 1.1 = 2.53 m of each
    assert cable_metres(board(case))[50.0] == pytest.approx(2.3)
    for colour in ("red", "black"):
        assert listed(case)[f"cable:50-{colour}"].article.count == 3.0
        assert listed(case, waste=0.0)[f"cable:50-{colour}"].article.count == 2.5


def test_every_circuit_gives_its_metres_to_some_size() -> None:
    circuits = board(full_case()).circuits
    assert sum(cable_metres(board(full_case())).values()) == pytest.approx(
        sum(c.run_m for c in circuits)
    )


def test_each_fuse_is_counted_once_and_has_spares() -> None:
    lines = listed(full_case())
    circuits = board(full_case()).circuits
    bought = sum(line.article.count for key, line in lines.items() if key.startswith("fuse:"))
    assert bought == len(circuits)
    for key, line in lines.items():
        if key.startswith("fuse:blade"):
            assert lines[key.replace("fuse", "spare")].article.count == 2
        assert line.article.count > 0


def test_a_lead_between_two_batteries_takes_two_fuses() -> None:
    relay = Relay("relay", "Relay", feed=FEED, fuse_a=60.0)
    lines = listed(full_case(vehicle=(relay,)))
    assert lines["fuse:class_t-60"].article.count == 2


def counts(case: Case, stem: str) -> dict[str, float]:
    return {key: line.article.count for key, line in listed(case).items() if key.startswith(stem)}


ALONE = {"sun": (), "vehicle": (), "mains": (), "inverter": None}


def test_lugs_are_counted_along_the_main_lead_by_stud() -> None:
    # 35 mm2: post M8, fuse, isolator, bar in plus: post, two at the fuse, two at the isolator,
    # bar; two at the shunt, a post and the bar in minus; and the link to the block.
    case = full_case(
        Choice("battery", cable_mm2=35.0), Choice("outlet-lamp", connector="lug"), **ALONE
    )
    assert counts(case, "lug:35") == {"lug:35-M8": 6 + 4 + 2}


def test_each_battery_in_parallel_brings_its_lugs_and_its_fuse() -> None:
    pair = full_case(
        Choice("battery", cable_mm2=35.0), bank=Bank(LIFEPO4, 100.0, parallel=2), **ALONE
    )
    # For each battery: post, two at its fuse, joint; post and joint in minus. The main lead then
    # begins at the joints.
    assert counts(pair, "lug:35") == {"lug:35-M8": 2 * 6 + 6 + 4 + 2}
    # Two leads of 0.3 m besides the main lead's half metre, of each colour.
    assert cable_metres(board(pair))[35.0] == pytest.approx(0.5 + 2 * 0.3)
    posts = board(pair).of("battery")
    assert posts is not None
    assert counts(pair, f"fuse:{posts.post_family}-{posts.post_fuse_a:g}")


def test_a_thin_circuit_takes_a_ring_in_the_block_and_a_push_on_at_its_socket() -> None:
    case = full_case(Choice("outlet-lamp", cable_mm2=1.5), **ALONE)
    # In plus from the block's M4 screw, in minus from the bar's; both end at the socket's tabs.
    assert counts(case, "lug:1.5") == {"lug:1.5-M4": 2}
    assert counts(case, "push_on:1.5") == {"push_on:1.5": 2}


def test_small_things_that_are_forgotten_are_on_the_list() -> None:
    four = full_case(bank=Bank(LIFEPO4, 50.0, series=2, parallel=2, system_v=24.0))
    lines = listed(four)
    # Two posts on each of four batteries, a link in each of two strings.
    assert lines["boots"].article.count == 8
    assert lines["links"].article.count == 2
    assert lines["labels"].article.count == 2 * len(board(four).circuits)
    assert lines["holder:in-line"].article.count > 0


def test_a_known_price_is_no_range_and_a_guess_is_one() -> None:
    lines = listed(full_case(), Known("inverter", euro=123.0, kg=2.5))
    inverter, shunt = lines["inverter"], lines["shunt"]
    assert (inverter.euro_low, inverter.euro_high, inverter.kg) == (123.0, 123.0, 2.5)
    assert inverter.price_known
    assert inverter.weight_known
    assert shunt.euro_low < shunt.euro_high
    assert not shunt.price_known


def test_a_price_is_of_one_and_counts_for_all() -> None:
    sizes = listed(full_case(), Known("plug:socket", euro=5.0))
    line = sizes["plug:socket"]
    assert line.euro_low == pytest.approx(5.0 * line.article.count)


def test_what_is_owned_is_not_bought_and_weighs_all_the_same() -> None:
    without = totals_of(tuple(listed(full_case()).values()))
    owned = totals_of(tuple(listed(full_case(), Known("battery", owned=True)).values()))
    battery = listed(full_case())["battery"]
    assert owned.buy_low == pytest.approx(without.buy_low - battery.euro_low)
    assert owned.all_low == pytest.approx(without.all_low)
    assert owned.kg == pytest.approx(without.kg)


def test_panels_are_not_carried_with_the_box() -> None:
    lines = tuple(listed(full_case()).values())
    panels = sum(line.kg for line in lines if line.article.group == "panels")
    # The feed's fuse sits at the starter battery, in a holder of 80 g.
    at_starter = sum(line.kg for line in lines if line.article.key.endswith("-away"))
    totals = totals_of(lines)
    assert panels > 0
    assert at_starter == pytest.approx(0.08)
    assert totals.kg - totals.carried_kg == pytest.approx(panels + at_starter)


def test_a_size_from_the_sheet_beats_the_typical_one() -> None:
    known = Known("battery", length_mm=260.0, width_mm=168.0, height_mm=210.0)
    line = listed(full_case(), known)["battery"]
    assert line.size_known
    assert line.article.bulk is not None
    assert (line.article.bulk.length_mm, line.article.bulk.height_mm) == (260.0, 210.0)


def test_several_batteries_are_bought_one_by_one() -> None:
    four = full_case(bank=Bank(LIFEPO4, 50.0, series=2, parallel=2, system_v=24.0))
    battery = listed(four)["battery"].article
    assert battery.count == 4
    assert "50 Ah, 12.8 V" in battery.name


@pytest.mark.parametrize(("chemistry", "litres"), [(LIFEPO4, 12.5), (AGM, 12.5)])
def test_a_battery_of_100_ah_is_about_a_usual_case(chemistry: object, litres: float) -> None:
    # The common case is 330 x 172 x 220 mm.
    bulk = battery_bulk(Bank(chemistry, 100.0))  # type: ignore[arg-type]
    volume = bulk.length_mm * bulk.width_mm * bulk.height_mm / 1e6
    assert volume == pytest.approx(litres, rel=0.05)
    assert bulk.length_mm == pytest.approx(330.0, abs=12)


def test_thick_cables_want_room_to_turn() -> None:
    # 70 mm2: 9.44 mm of copper, stranded and sheathed 12.5 mm; four of them and a lug.
    thick = listed(full_case(Choice("battery", cable_mm2=70.0)))["battery"].article
    thin = listed(full_case())["battery"].article
    assert thick.above_mm == pytest.approx(20.0 + 4 * (1.15 * 9.441 + 1.6), abs=0.1)
    assert thin.above_mm < thick.above_mm


def test_a_ready_made_unit_is_one_part_with_its_leads() -> None:
    lines = listed(full_case(unit=ReadyMade(), mains=()))
    assert "unit" in lines
    assert not {"battery", "inverter", "bars", "block", "enclosure", "isolator"} & set(lines)


def test_a_combined_charger_is_bought_once() -> None:
    lines = listed(full_case(joining=Coupling("combined", 25.0, ("roof", "dcdc"))))
    assert {key for key in lines if key.startswith("charger:")} == {
        "charger:combined",
        "charger:mains",
    }
    assert "25 A" in lines["charger:combined"].article.name


def test_a_holder_at_the_starter_battery_takes_no_room_in_the_box() -> None:
    relay = Relay("relay", "Relay", feed=FEED, fuse_a=60.0)
    lines = listed(full_case(vehicle=(relay,)))
    away = lines["holder:class_t-away"].article
    assert (away.count, away.inside, away.bulk) == (1, False, None)
    # The main fuse's and the feed's other end are in the box.
    assert lines["holder:class_t"].article.count == 2
    assert lines["holder:class_t"].article.inside


def test_a_selector_is_bought_where_it_joins_the_sources() -> None:
    lines = listed(full_case(joining=Coupling("selector")))
    assert lines["selector"].article.name == "Selector switch, 3 ways, 20 A"
    assert "selector" not in listed(full_case())


def test_names_of_parts_are_unique() -> None:
    run = ran(full_case())
    lines = list_parts(run, board(full_case()), BuiltOf("metal", 5.0, 0.1), ())
    keys = [line.article.key for line in lines]
    assert len(keys) == len(set(keys))
    assert replace(lines[0]) == lines[0]
