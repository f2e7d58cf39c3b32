"""A plain list of loads in JSON: read by hand-reckoned figures, or refused by its field."""

from __future__ import annotations

import json
from typing import Any

import pytest

from oddkettle.formats.shelf_file import ShelfThing, read_shelf
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.use import ApplianceModel


def read(*loads: dict[str, Any]) -> list[ShelfThing]:
    return read_shelf(json.dumps(list(loads)).encode())


def daily_wh(thing: ShelfThing) -> float:
    assert isinstance(thing.part, ApplianceModel)
    hours = thing.part.hours[0]
    begin, end = (int(t[:2]) * 60 + int(t[3:]) for t in (hours.start, hours.end))
    return thing.part.power_w * ((end - begin) % 1440 or 1440) / 60


@pytest.mark.parametrize(
    ("load", "wh"),
    [
        ({"name": "Lamp", "watts": 5, "hours": 4}, 20.0),
        ({"name": "Lamps", "watts": 5, "hours": 4, "count": 3}, 60.0),
        ({"name": "Night lamp", "watts": 2, "hours": 8}, 16.0),
        ({"name": "Router", "watts": 10}, 240.0),
        ({"name": "Radio", "watts": 12, "from": "20:00", "to": "22:30"}, 30.0),
        ({"name": "Fridge", "wh_per_day": 400}, 400.0),
        ({"name": "Fridge", "ah_per_day": 30}, 360.0),
    ],
)
def test_a_load_uses_in_a_day_what_was_told(load: dict[str, Any], wh: float) -> None:
    (thing,) = read(load)
    assert daily_wh(thing) == pytest.approx(wh)
    assert thing.name == load["name"]


def test_what_runs_from_mains_voltage_hangs_on_the_inverter() -> None:
    for mains, supply in ((True, "inverter"), (False, "12v")):
        (thing,) = read({"name": "Blender", "watts": 300, "hours": 0.1, "mains": mains})
        assert isinstance(thing.part, ApplianceModel)
        assert thing.part.supply == supply


@pytest.mark.parametrize(
    ("load", "where"),
    [
        ({"name": "Lamp", "hours": 4}, "watts"),
        ({"name": "Lamp", "watts": "five"}, "watts"),
        ({"name": "Lamp", "watts": True}, "watts"),
        ({"name": "Lamp", "watts": -5}, "watts"),
        ({"name": "Lamp", "watts": 5, "hours": 25}, "hours"),
        ({"name": "Lamp", "watts": 5, "colour": "red"}, "colour"),
        ({"watts": 5}, "name"),
        ({"name": "Lamp", "watts": 5, "from": "25:99"}, "hours"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field_and_nothing_is_taken(
    load: dict[str, Any], where: str
) -> None:
    with pytest.raises(PlanRefused) as refusal:
        read({"name": "Sound", "watts": 1, "hours": 1}, load)
    assert where in refusal.value.complaints[0].where
