"""Quantities of a sentence are written out once, in the habits of whoever reads."""

from __future__ import annotations

import json
from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.core.units import quantity
from oddkettle.core.units.quantity import (
    celsius,
    charge,
    clock,
    conductor,
    in_unit,
    kelvin,
    kg_per_ah,
    kilogram,
    torque,
)
from oddkettle.text import USUAL, Habits, read_by, render
from oddkettle.text.habits import habits_from
from oddkettle.text.render import WRITERS, render_bytes

OTHER = Habits(unit="Wh", temperature="F", cable="AWG", weight="lb", clock="12")


@pytest.mark.parametrize(
    ("said", "usual", "other"),
    [
        (celsius(0), "0 °C", "32 °F"),
        (celsius(-40), "−40 °C", "−40 °F"),
        (celsius(100), "100 °C", "212 °F"),
        (celsius(4.5), "4.5 °C", "40 °F"),
        (celsius(-0.3, ".0f"), "0 °C", "31 °F"),
        (celsius(20, unit=False), "20", "68"),
        (kelvin(10), "10 K", "18 °F"),
        (kilogram(10.0), "10.0 kg", "22.0 lb"),
        (kilogram(20.0, ".0f"), "20 kg", "44 lb"),
        (kg_per_ah(0.1), "0.100 kg/Ah", "0.220 lb/Ah"),
        (torque(3), "3 Nm", "27 in-lb"),
        (torque(20), "20 Nm", "177 in-lb"),
        (clock(0), "00:00", "12:00 am"),
        (clock(725), "12:05", "12:05 pm"),
        (clock(1439), "23:59", "11:59 pm"),
        (clock(1440), "24:00", "12:00 am"),
        (clock(datetime(2026, 6, 8, 5, 40)), "05:40", "5:40 am"),
        (charge(3.06, 39.2), "3.1 Ah", "39 Wh"),
        (charge(34.4, 440.0), "34 Ah", "440 Wh"),
        (charge(-34.4, -440.4), "−34 Ah", "−440 Wh"),
        (charge(34.44, 440.0, ".1f"), "34.4 Ah", "440 Wh"),
        (in_unit(60.0, "C"), "60 °C", "140 °F"),
        (in_unit(12.5, "V"), "12.5 V", "12.5 V"),
        (in_unit(3.0, ""), "3", "3"),
    ],
)
def test_a_quantity_is_written_by_its_reader(said: str, usual: str, other: str) -> None:
    assert render(said) == usual
    assert render(said, OTHER) == other


@pytest.mark.parametrize(
    ("area_mm2", "awg"),
    [
        (0.75, "18 AWG"),
        (2.0, "14 AWG"),
        (2.5, "12 AWG"),
        (5.26, "10 AWG"),
        (6.0, "8 AWG"),
        (53.5, "1/0 AWG"),
        (67.4, "2/0 AWG"),
        (70.0, "3/0 AWG"),
    ],
)
def test_a_cable_in_awg_is_one_on_sale_and_no_thinner(area_mm2: float, awg: str) -> None:
    assert render(conductor(area_mm2), OTHER) == awg


def test_a_cable_thicker_than_any_awg_on_sale_keeps_its_area() -> None:
    assert render(conductor(150.0), OTHER) == "150 mm²"


def test_the_words_between_quantities_are_left_alone() -> None:
    said = f"At {clock(415)} it is under {celsius(0)}; use {conductor(10)}, 0.05 C, 12.6 V, Fri 12."
    assert render(said) == "At 06:55 it is under 0 °C; use 10 mm², 0.05 C, 12.6 V, Fri 12."
    assert render(said, OTHER) == "At 6:55 am it is under 32 °F; use 6 AWG, 0.05 C, 12.6 V, Fri 12."


def test_what_is_typed_is_never_taken_for_a_quantity() -> None:
    for typed in ("at 07:30, 5 C", quantity.OPEN, f"{quantity.OPEN}x", f"a{quantity.CLOSE}b"):
        assert render(typed, OTHER) == typed


def test_every_kind_has_a_writer() -> None:
    from typing import get_args

    assert set(WRITERS) == set(get_args(quantity.Kind))


@given(st.floats(-1e6, 1e6), st.sampled_from(["celsius", "kelvin", "kilogram", "torque"]))
def test_a_document_written_out_is_still_the_same_json(value: float, kind: quantity.Kind) -> None:
    said = f"“{quantity.mark(kind, '.3g', value)}”"
    body = json.dumps({"text": said}, ensure_ascii=False).encode()
    for habits in (USUAL, OTHER):
        assert json.loads(render_bytes(body, habits)) == {"text": render(said, habits)}


def test_no_time_of_day_lies_past_midnight() -> None:
    with pytest.raises(ValueError, match="0 to 1440"):
        clock(1441)


def test_the_reader_of_a_task_is_forgotten_after_it() -> None:
    with read_by(OTHER):
        assert render(celsius(0)) == "32 °F"
    assert render(celsius(0)) == "0 °C"


@pytest.mark.parametrize(
    ("text", "habits"),
    [
        ("", USUAL),
        ("clock:12", Habits(clock="12")),
        ("cable:AWG.clock:12.temperature:F.unit:Wh.weight:lb", OTHER),
        ("clock%3A12", Habits(clock="12")),
        ("clock:13.weight:lb.colour:red.:::", Habits(weight="lb")),
    ],
)
def test_habits_are_read_and_what_is_unknown_passed_over(text: str, habits: Habits) -> None:
    assert habits_from(text) == habits


@pytest.mark.parametrize("text", ["clock:13", "colour:red", "F", "clock"])
def test_where_somebody_typed_habits_the_unknown_is_refused_with_the_choices(text: str) -> None:
    with pytest.raises(ValueError, match="clock:24 or 12"):
        habits_from(text, strict=True)
