"""The parts table: what goes out comes back, and what is wrong in it is said line by line."""

from __future__ import annotations

import csv
import io

import pytest

from oddkettle.core.construction.parts.lines import BuiltOf, Known
from oddkettle.core.construction.parts.parts_list import list_parts
from oddkettle.formats.parts_csv import COLUMNS, MAX_BYTES, parts_csv, read_parts_csv
from oddkettle.plan.plan_errors import PlanRefused
from tests.core.construction.boxes import board, full_case, ran


def table(*known: Known) -> str:
    run = ran(full_case())
    return parts_csv(list_parts(run, board(full_case()), BuiltOf("wood", 5.0, 0.1), known)).decode()


def complaint(text: str) -> tuple[str, str, str, str]:
    with pytest.raises(PlanRefused) as refused:
        read_parts_csv(text)
    (one,) = refused.value.complaints
    return one.where, one.value, one.limit, one.remedy


def test_every_line_has_every_column() -> None:
    rows = list(csv.DictReader(io.StringIO(table())))
    assert tuple(rows[0]) == COLUMNS
    assert len(rows) > 20
    assert all(row["part"] and row["name"] for row in rows)


def test_what_is_known_comes_back_and_guesses_say_nothing() -> None:
    known = Known("inverter", owned=True, euro=123.45, kg=2.5)
    back = {one.part: one for one in read_parts_csv(table(known))}
    assert back["inverter"] == known
    assert back["shunt"] == Known("shunt")


def test_a_table_of_semicolons_and_decimal_commas_is_read() -> None:
    text = "\ufeffpart;name;euro_each;kg_each;owned\ninverter;x;99,5;1,25;yes\n"
    assert read_parts_csv(text) == [Known("inverter", True, 99.5, 1.25)]


def test_only_a_part_and_a_price_are_enough() -> None:
    assert read_parts_csv("part,euro_each\nshunt,40\n") == [Known("shunt", False, 40.0)]


def test_of_a_part_named_twice_the_last_holds() -> None:
    assert read_parts_csv("part,euro_each\nshunt,40\nshunt,50\n") == [Known("shunt", False, 50.0)]


@pytest.mark.parametrize("price", ["cheap", "-3", "1e9", "nan"])
def test_a_price_that_is_none_is_refused_with_its_line(price: str) -> None:
    where, value, limit, remedy = complaint(f"part,euro_each\nshunt,40\nbars,{price}\n")
    assert where == "line 3, euro_each"
    assert value == price
    assert limit == "0 to 100000 euro"
    assert "leave it empty" in remedy


def test_an_owner_who_says_perhaps_is_asked_again() -> None:
    assert complaint("part,owned\nshunt,perhaps\n")[:3] == ("line 2, owned", "perhaps", "yes or no")


@pytest.mark.parametrize("text", ["", "a,b\n1,2\n", "{}", "%PDF-1.4"])
def test_what_is_no_parts_table_is_told_what_one_is(text: str) -> None:
    assert complaint(text)[2] == "a column named part"


def test_an_endless_table_is_refused_before_it_is_read() -> None:
    assert complaint("part\n" + "x\n" * MAX_BYTES)[0] == "file"
