"""Labels are read as a careful reader would: each figure into its field, and nothing made up."""

from __future__ import annotations

import pytest

from oddkettle.formats.labels.figures import figures_of
from oddkettle.formats.labels.read import KINDS, kind_of, read_label
from tests.formats.labels.read_labels import Wanted, labels, wrong

LABELS = labels()


@pytest.mark.parametrize("label", LABELS, ids=[one.title for one in LABELS])
def test_every_figure_goes_into_its_field(label: Wanted) -> None:
    read = read_label(label.text, KINDS[label.kind])
    assert wrong(read.values, label.values) == set()
    assert label.values.keys() <= read.values.keys()
    assert label.missing <= set(read.missing)
    assert {note.field for note in read.notes} == label.disputed


def test_what_a_label_is_about_is_found_from_its_text() -> None:
    taken = {one.title: found.key if (found := kind_of(one.text)) else None for one in LABELS}
    assert taken == {one.title: one.kind for one in LABELS}


def test_words_without_figures_are_about_nothing() -> None:
    assert kind_of("we leave on Friday and come home on Sunday") is None


@pytest.mark.parametrize("label", LABELS, ids=[one.title for one in LABELS])
def test_every_figure_is_shown_once_whether_it_goes_anywhere_or_not(label: Wanted) -> None:
    """No figure that was printed is passed over in silence."""
    read = read_label(label.text, KINDS[label.kind])
    shown = [line.typed for line in read.lines]
    for figure in figures_of(label.text):
        if figure.unit == "h":
            continue  # "20 h" is the name of a capacity.
        assert shown.count(figure.typed) >= 1, figure.typed


@pytest.mark.parametrize(
    ("printed", "low", "high", "unit"),
    [
        ("18,4 V", 18.4, 18.4, "V"),
        ("1,280 Wh", 1280, 1280, "Wh"),
        ("1.28 kWh", 1280, 1280, "Wh"),
        ("14.2-14.6V", 14.2, 14.6, "V"),
        ("14.4 V ~ 14.9 V", 14.4, 14.9, "V"),
        ("14.4 V +/- 0.2 V", 14.4, 14.4, "V"),
        ("-20~60℃", -20, 60, "C"),
        ("<= 30 mΩ", 30, 30, "mOhm"),
        ("-66.9 mV/K", -0.0669, -0.0669, "V/K"),
        ("10400mAh", 10.4, 10.4, "Ah"),
        ("98 kWh/annum", 268.49, 268.49, "Wh/day"),
    ],
)
def test_figures(printed: str, low: float, high: float, unit: str) -> None:
    (figure,) = figures_of(printed)
    assert (figure.low, figure.high) == pytest.approx((low, high), rel=1e-3)
    assert figure.unit == unit


def test_what_runs_together_is_several_figures() -> None:
    assert [f.typed for f in figures_of("12.8V230Ah 2944Wh")] == ["12.8V", "230Ah", "2944Wh"]
    assert [f.unit for f in figures_of("230 V~ 50 Hz 1.5 A")] == ["V", "Hz", "A"]
