"""A battery's curve out of what people type or a spreadsheet writes."""

from __future__ import annotations

import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.formats.battery_curve import MAX_ROWS, parse_curve

POINTS = ((90.0, 50.0, 20.0), (13.33, 13.12, 12.9))


@pytest.mark.parametrize(
    "text",
    [
        "90 13.33\n50 13.12\n20 12.9",
        "90,13.33\n50,13.12\n20,12.9\n",
        "90;13,33\r\n50;13,12\r\n20;12,9",
        "90\t13.33\n50\t13.12\n20\t12.9",
        "level;volts\n90;13,33\n50;13,12\n20;12,9",
        "Voltage (V),SoC %\n13.33,90\n13.12,50\n12.9,20",
        "13.33 90\n13.12 50\n12.9 20",
        "# measured in May\n\n90 % 13.33 V".replace("90 % 13.33 V", "90% 13.33V")
        + "\n50% 13.12V\n20% 12.9V",
    ],
)
def test_every_usual_way_of_writing_two_columns_is_read(text: str) -> None:
    read = parse_curve(text, nominal_v=12.8)
    assert (read.level, read.volts) == POINTS


def test_a_named_column_of_drawn_charge_is_known_as_such() -> None:
    assert parse_curve("Ah drawn,V\n0,13.3\n50,13.1", 12.8).drawn is True
    assert parse_curve("SoC,V\n100,13.3\n50,13.1", 12.8).drawn is False
    assert parse_curve("100 13.3\n50 13.1", 12.8).drawn is None


def test_a_line_of_words_is_told_with_its_number() -> None:
    with pytest.raises(PlanError, match="Line 3") as told:
        parse_curve("90 13.33\n50 13.12\nabout half full", 12.8)
    assert told.value.remedy


@pytest.mark.parametrize("text", ["", "# only a remark", "level volts"])
def test_no_points_are_no_curve(text: str) -> None:
    with pytest.raises(PlanError, match="no points"):
        parse_curve(text, 12.8)


def test_a_logbook_of_a_year_is_refused_with_its_length() -> None:
    with pytest.raises(PlanError, match="5,001 lines"):
        parse_curve("50 13.1\n" * (MAX_ROWS + 1), 12.8)


@pytest.mark.parametrize("word", ["nan 13.1", "inf 13.1", "1e9 13.1", "50"])
def test_what_is_no_number_is_no_point(word: str) -> None:
    with pytest.raises(PlanError):
        parse_curve(f"90 13.3\n{word}", 12.8)
