"""The wiring drawing: every circuit with its protection, no crossing without a bow, no text in
the way of anything. What is checked here is worked out anew from the shapes alone."""

from __future__ import annotations

from collections import Counter
from itertools import combinations, pairwise

import pytest

from oddkettle.core.construction.schematic.drawing import draw_schematic
from oddkettle.core.construction.schematic.figures import HEIGHT, SMALL, Label, Shape, Sheet, Wire
from oddkettle.core.construction.wiring.circuits import BAR, Board
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.construction.wiring.terminals import in_block
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.own_wiring import Choice
from oddkettle.core.simulation.run import simulate
from oddkettle.plan.case import case_from_plan
from oddkettle.text import render
from tests.conftest import EXAMPLES, example
from tests.core.construction.boxes import full_case
from tests.core.construction.stress import STRESS

LETTER = 0.53
"""Width of a letter of the text face over its size, on average [measured on the face]."""
BOXES = sorted(path.stem for path in EXAMPLES.glob("*.json")) + sorted(STRESS)
SEVEN_PT_MM = 7.0 * 25.4 / 72.0
Box = tuple[float, float, float, float]


def case_of(name: str) -> Case:
    return STRESS[name]() if name in STRESS else case_from_plan(example(name))


DRAWN: dict[str, tuple[Board, tuple[Sheet, ...]]] = {}


def drawn(name: str) -> tuple[Board, tuple[Sheet, ...]]:
    """A box's drawing; made once for all tests here."""
    if name not in DRAWN:
        DRAWN[name] = draw(case_of(name))
    return DRAWN[name]


def draw(case: Case) -> tuple[Board, tuple[Sheet, ...]]:
    run = simulate(case)
    board = board_of(run)
    return board, draw_schematic(run, board, "A box")


def segments(wire: Wire) -> list[Box]:
    return [
        (min(a[0], b[0]), min(a[1], b[1]), max(a[0], b[0]), max(a[1], b[1]))
        for a, b in pairwise(wire.points)
    ]


def area_of(label: Label) -> Box:
    wide = LETTER * label.size * len(render(label.text))
    left = {"start": label.x, "middle": label.x - wide / 2, "end": label.x - wide}[label.anchor]
    return left, label.y - 0.7 * label.size, left + wide, label.y + 0.05


def box_of(shape: Shape) -> Box:
    return shape.x, shape.y, shape.x + shape.w, shape.y + shape.h


def overlap(a: Box, b: Box, slack: float = 0.0) -> bool:
    return (
        min(a[2], b[2]) - max(a[0], b[0]) > slack and min(a[3], b[3]) - max(a[1], b[1]) > slack
    ) or (
        # A line has no width or no height of its own.
        min(a[2], b[2]) >= max(a[0], b[0])
        and min(a[3], b[3]) >= max(a[1], b[1])
        and (b[0] == b[2] or b[1] == b[3])
    )


@pytest.mark.parametrize("name", BOXES)
def test_every_line_that_crosses_another_leaps_over_it(name: str) -> None:
    for sheet in drawn(name)[1]:
        for a, b in combinations(sheet.wires, 2):
            if a.net == b.net:
                continue
            for one in segments(a):
                for other in segments(b):
                    flat, upright = (one, other) if one[1] == one[3] else (other, one)
                    if flat[1] != flat[3] or upright[0] != upright[2]:
                        continue
                    x, y = upright[0], flat[1]
                    if flat[0] < x < flat[2] and upright[1] < y < upright[3]:
                        leaper = a if flat is one else b
                        assert any((hop.x, hop.y) == (x, y) for hop in leaper.hops)


@pytest.mark.parametrize("name", BOXES)
def test_lines_of_two_nets_never_lie_on_each_other(name: str) -> None:
    for sheet in drawn(name)[1]:
        for a, b in combinations(sheet.wires, 2):
            if a.net == b.net:
                continue
            for one in segments(a):
                for other in segments(b):
                    same_row = one[1] == one[3] == other[1] == other[3]
                    same_column = one[0] == one[2] == other[0] == other[2]
                    along = min(one[2], other[2]) - max(one[0], other[0])
                    down = min(one[3], other[3]) - max(one[1], other[1])
                    assert not (same_row and along > 0.0), (a.net, b.net)
                    assert not (same_column and down > 0.0), (a.net, b.net)


@pytest.mark.parametrize("name", BOXES)
def test_no_text_lies_on_a_line_a_symbol_or_other_text(name: str) -> None:
    for sheet in drawn(name)[1]:
        solid = [s for s in sheet.shapes if s.kind not in {"frame", "dot"}]
        for label in sheet.labels:
            area = area_of(label)
            for wire in sheet.wires:
                for segment in segments(wire):
                    assert not overlap(area, segment), (label.text, wire.net)
            for shape in solid:
                assert not overlap(area, box_of(shape), 0.05), (label.text, shape.kind)
        for one, other in combinations(sheet.labels, 2):
            assert not overlap(area_of(one), area_of(other), 0.05), (one.text, other.text)


@pytest.mark.parametrize("name", BOXES)
def test_no_symbol_lies_over_another_and_words_fit_inside(name: str) -> None:
    for sheet in drawn(name)[1]:
        apart = [s for s in sheet.shapes if s.kind not in {"frame", "dot", "bar", "stud", "earth"}]
        for a, b in combinations(apart, 2):
            assert not overlap(box_of(a), box_of(b), 0.01), (a, b)
        for shape in sheet.shapes:
            for line in shape.lines:
                assert LETTER * 3.1 * len(render(line)) <= shape.w + 0.3, line


@pytest.mark.parametrize("name", BOXES)
def test_everything_lies_on_a_page_at_full_size_in_letters_of_seven_points(name: str) -> None:
    for sheet in drawn(name)[1]:
        assert sheet.height <= HEIGHT + 8.0
        for shape in sheet.shapes:
            x0, y0, x1, y1 = box_of(shape)
            assert x0 >= 0
            assert y0 >= 0
            assert x1 <= sheet.width
            assert y1 <= sheet.height
        for label in sheet.labels:
            x0, _, x1, y1 = area_of(label)
            assert x0 >= 0
            assert x1 <= sheet.width, label.text
            assert y1 <= sheet.height
            assert label.size >= SEVEN_PT_MM


@pytest.mark.parametrize("name", BOXES)
def test_every_circuit_is_numbered_once_and_protected_where_the_schedule_says(name: str) -> None:
    board, sheets = drawn(name)
    wiring = [sheet for sheet in sheets if "bars" not in sheet.title]
    ready = not any(c.key == "battery" for c in board.circuits)
    for c in board.circuits:
        shapes = [s for sheet in wiring for s in sheet.shapes if s.circuit == c.number]
        assert [s.lines for s in shapes if s.kind == "number"] == [(str(c.number),)]
        kinds = Counter(s.kind for s in shapes)
        if c.fuse_with is not None or c.protection == "none":
            assert kinds["fuse"] + kinds["breaker"] == (1 if c.string_fuse_a else 0)
        elif c.protection == "breaker":
            assert kinds["breaker"] >= 1
        else:
            own = 1 if ready else c.fuses
            # Banks in parallel have one at each post; a second bank shows them as one symbol.
            posts = 0 if c.post_family is None else min(c.need.posts, 4)
            posts = min(posts, 1) if c.key == "second" else posts
            strings = 1 if c.string_fuse_a else 0
            assert kinds["fuse"] == own + posts + strings, c.key


@pytest.mark.parametrize("name", BOXES)
def test_every_positive_goes_through_its_protection_on_its_way(name: str) -> None:
    board, sheets = drawn(name)
    for sheet in sheets:
        for c in board.circuits:
            fuses = [
                s
                for s in sheet.shapes
                if s.circuit == c.number and s.kind in {"fuse", "breaker"} and s.ink != "negative"
            ]
            for fuse in fuses:
                middle = fuse.y + fuse.h / 2
                through = [
                    segment
                    for wire in sheet.wires
                    if wire.sign == "+"
                    for segment in segments(wire)
                    if segment[1] == segment[3] == pytest.approx(middle)
                    and segment[0] <= fuse.x
                    and segment[2] >= fuse.x + fuse.w
                ]
                assert through, (c.key, fuse)


@pytest.mark.parametrize("name", BOXES)
def test_the_bars_hold_every_circuit_that_the_schedule_leads_there(name: str) -> None:
    board, sheets = drawn(name)
    bars = [sheet for sheet in sheets if "bars" in sheet.title]
    if not bars:
        assert not any(c.key == "battery" for c in board.circuits)
        return
    there = Counter(s.circuit for sheet in bars for s in sheet.shapes if s.kind == "stud")
    for c in board.circuits:
        blocks = (
            1
            if c.key == "battery"
            and any(in_block(o) and o.need.begins == BAR for o in board.circuits)
            else 0
        )
        ends = 2 if BAR in {c.need.begins, c.need.ends} or c.need.role in {"outlet", "usb"} else 0
        if c.need.role in {"sense", "low"}:
            ends = 1 if c.need.role == "sense" else 2
        assert there[c.number] >= ends + blocks - (1 if c.fuse_with else 0), c.key


def test_the_monitor_is_fed_before_the_isolator_and_after_the_main_fuse() -> None:
    board, (supply, *_) = draw(full_case())
    main, sense = board.of("battery"), board.of("sense")
    assert main is not None
    assert sense is not None
    tap = next(s for s in supply.shapes if s.kind == "dot" and s.circuit == sense.number)
    fuse = next(s for s in supply.shapes if s.kind == "fuse" and s.circuit == main.number)
    isolator = next(s for s in supply.shapes if s.kind == "switch" and s.circuit == main.number)
    assert fuse.x + fuse.w < tap.x < isolator.x


def test_a_selector_lets_one_lead_go_on() -> None:
    board, (supply, *_) = drawn("quarry-selector")
    outputs = {c.number for c in board.circuits if c.need.role == "charge"}
    plus_x = max(s.x + s.w / 2 for s in supply.shapes if s.kind == "bar" and s.ink == "danger")
    at_bar = {w.circuit for w in supply.wires if w.sign == "+" and w.points[-1][0] == plus_x}
    assert len(outputs) == 2
    assert len(outputs & at_bar) == 1


def test_what_goes_past_the_shunt_is_drawn_in_red_and_named() -> None:
    def red(case: Case) -> list[int | None]:
        return [w.circuit for sheet in draw(case)[1] for w in sheet.wires if w.ink == "danger"]

    assert red(full_case()) == []
    past = full_case(Choice("inverter", returns="battery_side"))
    number = board_of(simulate(past)).of("inverter").number  # type: ignore[union-attr]
    assert red(past) == [number]
    labels = [label.text for sheet in draw(past)[1] for label in sheet.labels]
    assert any(f"circuit {number}" in text for text in labels)


def test_a_circuit_without_a_fuse_says_so_in_capitals() -> None:
    def said(case: Case) -> bool:
        return any(
            label.text == "NO FUSE" and label.bold and label.size == SMALL
            for sheet in draw(case)[1]
            for label in sheet.labels
        )

    assert said(full_case(Choice("charge-mains", protection="none")))
    assert not said(full_case())


def test_the_order_of_switching_off_stands_on_the_page() -> None:
    supply = draw(full_case())[1][0]
    assert any("Off: solar first, then battery" in label.text for label in supply.labels)


def test_many_sources_and_many_uses_go_on_to_more_sheets() -> None:
    _, sheets = drawn("crowded")
    titles = [sheet.title for sheet in sheets]
    assert sum("sources" in title for title in titles) == 2
    assert sum("uses" in title for title in titles) == 2
