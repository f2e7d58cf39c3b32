"""The schematic: every circuit on it, nothing over anything else, wires that meet their ends."""

from __future__ import annotations

import pytest

from oddkettle.core.construction.schematic import SMALL, Label, Schematic, Shape, draw_schematic
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.own_wiring import Choice
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import simulate
from oddkettle.plan.case import case_from_plan
from oddkettle.text import render
from tests.conftest import EXAMPLES, example
from tests.core.construction.boxes import full_case

LETTER = 0.56
"""Width of a letter of the text face over its size, on average [measured on the face]."""


def drawn(case: Case) -> Schematic:
    run = simulate(case)
    return draw_schematic(run, board_of(run), "A box")


def sample(name: str) -> Case:
    return case_from_plan(example(name))


NAMES = sorted(path.stem for path in EXAMPLES.glob("*.json"))


@pytest.mark.parametrize("name", NAMES)
def test_every_circuit_has_a_wire_a_number_and_its_protection(name: str) -> None:
    case = sample(name)
    drawing = drawn(case)
    for c in board_of(simulate(case)).circuits:
        assert any(w.circuit == c.number and not w.negative for w in drawing.wires)
        assert any(w.circuit == c.number and w.negative for w in drawing.wires)
        numbers = [s for s in drawing.shapes if s.kind == "number" and s.circuit == c.number]
        assert [s.lines for s in numbers] == [(str(c.number),)]
        kinds = {s.kind for s in drawing.shapes if s.circuit == c.number}
        assert c.protection in kinds


@pytest.mark.parametrize("name", NAMES)
def test_everything_lies_on_the_page(name: str) -> None:
    drawing = drawn(sample(name))
    for shape in drawing.shapes:
        assert shape.x >= 0
        assert shape.x + shape.w <= drawing.width
        assert shape.y - 2 >= 0
        assert shape.y + shape.h <= drawing.height
    for wire in drawing.wires:
        assert all(0 <= x <= drawing.width and 0 <= y <= drawing.height for x, y in wire.points)
    for label in drawing.labels:
        left, right = span(label)
        assert left >= 0
        assert right <= drawing.width


def span(label: Label) -> tuple[float, float]:
    wide = LETTER * label.size * len(render(label.text))
    left = {"start": label.x, "middle": label.x - wide / 2, "end": label.x - wide}[label.anchor]
    return left, left + wide


def crosses(a: Shape, b: Shape) -> bool:
    return (
        min(a.x + a.w, b.x + b.w) - max(a.x, b.x) > 0.01
        and min(a.y + a.h, b.y + b.h) - max(a.y, b.y) > 0.01
    )


@pytest.mark.parametrize("name", NAMES)
def test_no_box_lies_over_another(name: str) -> None:
    boxes = [s for s in drawn(sample(name)).shapes if s.kind in {"box", "battery", "shunt", "fuse"}]
    over = [(a, b) for i, a in enumerate(boxes) for b in boxes[i + 1 :] if crosses(a, b)]
    assert over == []


@pytest.mark.parametrize("name", NAMES)
def test_the_words_of_a_cable_end_before_the_next_symbol(name: str) -> None:
    drawing = drawn(sample(name))
    for label in drawing.labels:
        if " m" not in render(label.text) or label.circuit is None or label.size != SMALL:
            continue
        left, right = span(label)
        for shape in drawing.shapes:
            on_its_line = shape.y < label.y - 0.4 < shape.y + shape.h
            if shape.circuit == label.circuit and on_its_line and shape.kind in {"box", "fuse"}:
                assert right <= shape.x + 0.8 or left >= shape.x + shape.w - 0.01, label.text


@pytest.mark.parametrize("name", NAMES)
def test_the_words_of_a_fuse_lie_over_no_box_and_no_bar(name: str) -> None:
    drawing = drawn(sample(name))
    solid = [s for s in drawing.shapes if s.kind in {"box", "battery", "bar"}]
    for label in drawing.labels:
        if " A " not in label.text or label.circuit is None:
            continue
        left, right = span(label)
        for shape in solid:
            beside = right <= shape.x + 0.3 or left >= shape.x + shape.w - 0.3
            level = label.y <= shape.y or label.y - label.size >= shape.y + shape.h
            assert beside or level, label.text


def test_words_fit_inside_their_boxes() -> None:
    for name in NAMES:
        for shape in drawn(sample(name)).shapes:
            for line in shape.lines:
                if shape.kind == "box":
                    assert LETTER * 3.2 * len(line) <= shape.w, line


def test_wires_to_the_bar_end_on_it() -> None:
    drawing = drawn(full_case())
    plus = next(s for s in drawing.shapes if s.kind == "bar" and s.ink == "danger")
    middle = plus.x + plus.w / 2
    ends = [w.points[-1][0] for w in drawing.wires if w.ink == "mains" and not w.negative]
    assert ends == [pytest.approx(middle)]


def test_what_goes_past_the_shunt_is_drawn_past_it_in_red() -> None:
    def red(case: Case) -> list[int | None]:
        return [w.circuit for w in drawn(case).wires if w.ink == "danger"]

    assert red(full_case()) == []
    past = full_case(Choice("inverter", returns="battery_side"))
    assert red(past) == [board_of(simulate(past)).of("inverter").number]  # type: ignore[union-attr]


def test_a_circuit_without_a_fuse_says_so_in_capitals() -> None:
    labels = drawn(full_case(Choice("charge-mains", protection="none"))).labels
    assert any(label.text == "NO FUSE" and label.bold for label in labels)
    assert not any(label.text == "NO FUSE" for label in drawn(full_case()).labels)


def test_the_order_of_switching_off_stands_on_the_page() -> None:
    assert any(
        "Off: solar first, then battery" in label.text for label in drawn(full_case()).labels
    )
