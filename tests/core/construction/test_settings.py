"""What to set on every device: written down first as a good builder would have it."""

from __future__ import annotations

import re
from dataclasses import replace
from math import log

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.gel import GEL
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.construction.settings import DeviceSettings, SetPoint, settings_sheet
from oddkettle.core.construction.settings.cutting_off import cut_off_at
from oddkettle.core.construction.settings.monitoring import charged_v
from oddkettle.core.simulation.case import Case, SecondBank
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from tests.core.boxes import a_case
from tests.core.construction.boxes import DCDC, MAINS, ROOF, full_case


def of_chemistry(chemistry: Chemistry, volts: float = 12.0) -> Case:
    """A box with all sources of that chemistry, its chargers set as it likes them."""
    bank = Bank(chemistry, 100.0, battery_v=volts, system_v=volts)
    profile = Profile(chemistry.absorption_v, chemistry.float_v)
    return replace(full_case(), bank=bank, profile=profile, floor=1.0 - chemistry.usable_share)


def sheet(case: Case) -> tuple[DeviceSettings, ...]:
    return settings_sheet(simulate(case))


def rows(case: Case) -> dict[str, SetPoint]:
    """Every row by `part/key`, those that several share under each."""
    return {
        f"{part}/{row.key}": row
        for device in sheet(case)
        for part in (device.part, *device.also)
        for row in device.rows
    }


def figure(text: str) -> float:
    found = re.search(r"-?\d+(?:\.\d+)?", text)
    assert found is not None, text
    return float(found.group())


ROOF_PART, DCDC_PART, MAINS_PART = f"sun:{ROOF.key}", f"vehicle:{DCDC.key}", f"mains:{MAINS.key}"

# Chemistry, absorption between, float at the most, millivolts a degree: makers' usual figures for
# 12 V, looked up apart from the model.
USUAL = [
    (LIFEPO4, (14.0, 14.4), 13.6, 0),
    (AGM, (14.4, 14.7), 13.8, -24),
    (GEL, (14.0, 14.2), 13.8, -24),
    (FLOODED, (14.4, 14.8), 13.5, -30),
]


@pytest.mark.parametrize(("chemistry", "absorption", "floats", "per_k"), USUAL)
@pytest.mark.parametrize("volts", [12.0, 24.0])
def test_chargers_are_set_as_makers_usually_say(
    chemistry: Chemistry,
    absorption: tuple[float, float],
    floats: float,
    per_k: int,
    volts: float,
) -> None:
    by, found = volts / 12.0, rows(of_chemistry(chemistry, volts))
    for part in (ROOF_PART, DCDC_PART, MAINS_PART):
        assert absorption[0] * by <= figure(found[f"{part}/absorption"].value) <= absorption[1] * by
        assert figure(found[f"{part}/float"].value) <= floats * by
        said = found[f"{part}/compensation"].value
        assert said.startswith("off") if per_k == 0 else figure(said) == per_k * by
        alone = found[f"{part}/equalise"].value
        assert alone == ("only by hand" if chemistry.vented else "off")


def test_a_preset_is_chosen_by_its_highest_voltage() -> None:
    device = next(d for d in sheet(of_chemistry(LIFEPO4)) if d.part == ROOF_PART)
    assert "at most 14.4 V" in device.preset
    assert "without equalising" in device.preset


def test_what_the_battery_does_not_bear_is_not_what_is_to_be_set() -> None:
    wrong = replace(of_chemistry(GEL), profile=Profile(14.8, 13.7))
    row = rows(wrong)[f"{ROOF_PART}/absorption"]
    assert figure(row.value) <= GEL.never_above_v
    assert "14.8 V" in row.note


def test_a_sheets_own_voltage_stays_and_is_called_unusual() -> None:
    row = rows(replace(of_chemistry(LIFEPO4), profile=Profile(14.6, 13.5)))[
        f"{ROOF_PART}/absorption"
    ]
    assert row.value == "14.6 V"
    assert "own sheet" in row.note


def test_of_two_banks_side_by_side_both_must_bear_it() -> None:
    gel = SecondBank(Bank(GEL, 50.0), 1.0, always=True)
    row = rows(replace(of_chemistry(AGM), second=gel))[f"{ROOF_PART}/absorption"]
    assert figure(row.value) <= GEL.never_above_v


@pytest.mark.parametrize("chemistry", CHEMISTRIES.values(), ids=lambda c: c.key)
@pytest.mark.parametrize("draw_a", [0.0, 5.0, 20.0, 60.0])
def test_a_cut_off_lies_between_empty_and_rest_and_does_not_chatter(
    chemistry: Chemistry, draw_a: float
) -> None:
    case = of_chemistry(chemistry)
    cut = cut_off_at(case, draw_a)
    empty = chemistry.cutoff_v
    assert empty < cut.off_v <= cut.rests_v
    # Without its load the battery springs back to where it rests: that must not switch it on.
    assert cut.on_v > cut.rests_v
    assert cut.on_v < chemistry.absorption_v
    harder = cut_off_at(case, draw_a + 10.0)
    assert harder.off_v <= cut.off_v


def test_the_cut_off_comes_at_the_reserve_and_not_at_half() -> None:
    """By hand: AGM rests at 12.38 V half full, meets 5.5 mOhm, and 20 A take .11 V of it."""
    assert cut_off_at(replace(of_chemistry(AGM), floor=0.5), 20.0).off_v == pytest.approx(12.2)


@pytest.mark.parametrize("chemistry", CHEMISTRIES.values(), ids=lambda c: c.key)
def test_a_monitor_sees_full_after_float_and_before_the_charger_ends(chemistry: Chemistry) -> None:
    case = of_chemistry(chemistry)
    found = rows(case)
    charged = figure(found["wiring/charged"].value)
    assert figure(found[f"{ROOF_PART}/float"].value) < charged
    assert charged < figure(found[f"{ROOF_PART}/absorption"].value)
    tail = figure(found["wiring/tail"].value) / 100.0
    assert chemistry.tail_c < tail <= 0.04


def test_a_trickle_charger_does_not_lower_what_counts_as_charged() -> None:
    case = of_chemistry(AGM)
    alone, *_ = charged_v(case, (case.profile,))
    beside, *_ = charged_v(case, (case.profile, Profile(13.6, 13.6)))
    assert beside == alone


# Capacity at 20 h and at 5 h of the label (lead), at 100 h and at 1 h (lithium): published.
RATES = [
    (AGM, 20.0, 1.0, 5.0, 0.86),
    (GEL, 20.0, 1.0, 5.0, 0.84),
    (FLOODED, 20.0, 1.0, 5.0, 0.81),
    (LIFEPO4, 100.0, 1.01, 1.0, 0.97),
]


@pytest.mark.parametrize(("chemistry", "slow_h", "slow", "fast_h", "fast"), RATES)
def test_peukerts_exponent_is_that_of_published_capacities(
    chemistry: Chemistry, slow_h: float, slow: float, fast_h: float, fast: float
) -> None:
    """`I**n * t` is the same at both rates."""
    currents = (fast / fast_h) / (slow / slow_h)
    assert chemistry.peukert == pytest.approx(log(slow_h / fast_h) / log(currents), abs=0.01)


@pytest.mark.parametrize("chemistry", CHEMISTRIES.values(), ids=lambda c: c.key)
def test_every_chemistry_lies_in_its_own_window(chemistry: Chemistry) -> None:
    window = chemistry.window
    assert window.absorption_v[0] <= chemistry.absorption_v <= window.absorption_v[1] + 1e-9
    assert window.float_v[0] <= chemistry.float_v <= window.float_v[1] + 1e-9
    assert window.absorption_v[1] <= chemistry.never_above_v
    assert window.float_v[1] < window.absorption_v[0]
    assert window.tail_c[0] <= chemistry.tail_c <= window.tail_c[1]
    assert window.absorption_h[0] <= chemistry.absorption_hours <= window.absorption_h[1]


def test_no_charger_may_give_more_than_the_battery_takes() -> None:
    small = replace(of_chemistry(LIFEPO4), bank=Bank(LIFEPO4, 20.0))
    row = rows(small)[f"{DCDC_PART}/current"]
    assert figure(row.value) <= LIFEPO4.charge_limit_c * 20.0
    assert row.note


def test_settings_have_names_of_their_own() -> None:
    keys = [f"{d.part}-{row.key}" for d in sheet(of_chemistry(LIFEPO4)) for row in d.rows]
    assert len(keys) == len(set(keys))


def test_a_ready_made_unit_is_set_on_its_face_alone() -> None:
    case = full_case(unit=ReadyMade())
    parts = {device.part for device in sheet(case)}
    assert "unit" in parts
    assert not any(part.startswith(("sun:", "wiring", "cut-off")) for part in parts)


def test_without_a_shunt_there_is_no_monitor_to_set() -> None:
    case = a_case()
    bare = replace(case, wiring=replace(case.wiring, shunt=False))
    assert "wiring" in {device.part for device in sheet(case)}
    assert "wiring" not in {device.part for device in sheet(bare)}


def test_of_a_combined_charger_its_one_limit_is_set() -> None:
    case = of_chemistry(LIFEPO4)
    keys = (ROOF.key, DCDC.key)
    joined = replace(case, joining=Coupling("combined", 17.0, keys))
    found = rows(joined)
    assert figure(found[f"{ROOF_PART}/current"].value) == 17.0
    assert f"{DCDC_PART}/current" not in found
