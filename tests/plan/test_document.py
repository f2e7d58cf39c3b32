"""The plan document: what is accepted, what is refused and how it is said."""

from __future__ import annotations

import copy
import json
from typing import Any

import pytest

from oddkettle.formats.plan_json import parse_plan, plan_bytes
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import Complaint, PlanRefused
from oddkettle.usecases.simulate.run_cache import run_plan
from tests.conftest import EXAMPLES

NAMES = sorted(path.name for path in EXAMPLES.glob("*.json"))


def refusal(document: Any) -> Complaint:
    data = document if isinstance(document, bytes) else json.dumps(document).encode()
    with pytest.raises(PlanRefused) as caught:
        run_plan(parse_plan(data))
    return caught.value.complaints[0]


def put(document: dict[str, Any], path: str, value: object) -> dict[str, Any]:
    """A copy with one field changed; path like box.battery.capacity_ah or trip.blocks.0.end."""
    spoiled: Any = copy.deepcopy(document)
    *way, last = path.split(".")
    here = spoiled
    for part in way:
        here = here[int(part)] if part.isdigit() else here[part]
    if isinstance(here, list):
        here[int(last)] = value
    else:
        here[last] = value
    return spoiled


@pytest.mark.parametrize("name", NAMES)
def test_every_example_is_a_plan_that_runs_and_writes_back_the_same(name: str) -> None:
    data = (EXAMPLES / name).read_bytes()
    plan = parse_plan(data)
    written = plan_bytes(plan)
    assert parse_plan(written) == plan
    assert _holds(json.loads(written), json.loads(data))
    run_plan(plan)


def _holds(whole: Any, said: Any) -> bool:
    """Whether all that is said in a document stands in another; what is left out is as usual."""
    if isinstance(said, dict):
        return all(name in whole and _holds(whole[name], value) for name, value in said.items())
    if isinstance(said, list):
        return len(whole) == len(said) and all(map(_holds, whole, said))
    return bool(whole == said)


@pytest.mark.parametrize(
    ("path", "value", "limit"),
    [
        ("box.battery.capacity_ah", 10_000, "at most 1500 Ah"),
        ("box.battery.capacity_ah", -5, "at least 1 Ah"),
        ("box.battery.capacity_ah", "lots", "a number Ah"),
        ("box.battery.capacity_ah", None, "a number Ah"),
        ("box.vehicle.0.limit_a", 0, "at least 0.05 A"),
        ("box.vehicle.0.efficiency_percent", 120, "at most 100 %"),
        ("box.vehicle.0.kind", "magic", "'dcdc', 'relay' or 'socket'"),
        ("box.battery.datasheet", {"internal_mohm": 0}, "at least 0.02 mOhm"),
        ("use.appliances.0.pattern.cycle_min", 0, "at least 2 min"),
        ("use.appliances.0.pattern", {"type": "magic"}, "'fridge', 'radio'"),
        ("use.appliances.0.power_w", -1, "at least 0.001 W"),
        ("use.appliances.0.hours.0.start", "25:10", "00:00 to 24:00"),
        ("trip.site.latitude", 91, "at most 90 degrees north"),
        ("trip.floor_percent", 101, "at most 100 %"),
        ("assumptions.step_min", 7, "1, 2, 3, 4, 5, 6, 10, 12, 15, 20, 30 or 60 min"),
        ("trip.days", [{"sky": "clear"}] * 401, "at most 400"),
        ("trip.days.0.sky", "plaid", "'usual', 'clear'"),
    ],
)
def test_nonsense_is_refused_with_its_place_and_limit(
    document: dict[str, Any], path: str, value: object, limit: str
) -> None:
    said = refusal(put(document, path, value))
    assert path.startswith(said.where) or said.where.startswith(path)
    assert limit in said.limit
    assert said.remedy


def test_a_missing_field_and_an_unknown_one_are_both_named(document: dict[str, Any]) -> None:
    del document["box"]["battery"]["capacity_ah"]
    document["box"]["batery"] = {}
    with pytest.raises(PlanRefused) as caught:
        parse_plan(json.dumps(document).encode())
    assert {c.where for c in caught.value.complaints} == {
        "box.battery.capacity_ah",
        "box.batery",
    }


@pytest.mark.parametrize(
    ("path", "value", "where", "text"),
    [
        ("box.battery.chemistry", "unobtainium", "box.battery.chemistry", "no battery chemistry"),
        ("box.battery.series", 2, "box.battery.series", "make 24 V, but this box runs at 12 V"),
        ("box.battery.float_v", 14.5, "box.battery.float_v", "lies above absorption"),
        (
            "box.battery.battery_v",
            24,
            "box.battery.series",
            "makes 24 V, but this box runs at 12 V",
        ),
        ("box.battery.cells", 2, "box.battery.cells", "make 6.4 V, but this box runs at 12 V"),
        (
            "box.mains.0.profile",
            {"absorption_v": 13.8, "float_v": 14.2},
            "box.mains.0.profile.float_v",
            "lies above absorption",
        ),
        (
            "box.sun.0.panels.0.label",
            {"voc_v": 18, "vmp_v": 22, "isc_a": 6, "imp_a": 5.5},
            "box.sun.0.panels.0.label.vmp_v",
            "not below Voc",
        ),
        (
            "box.sun.0.panels.0.label",
            {"voc_v": 22, "vmp_v": 18, "isc_a": 5.5, "imp_a": 6},
            "box.sun.0.panels.0.label.imp_a",
            "not below Isc",
        ),
        (
            "box.sun.0.panels.0.label",
            {"voc_v": 22, "vmp_v": 18, "isc_a": 10, "imp_a": 9},
            "box.sun.0.panels.0.label.imp_a",
            "said to have 100 W",
        ),
        (
            "box.sun.0.panels.0.label",
            {"voc_v": 22, "vmp_v": 18, "isc_a": 6, "imp_a": 5.5, "fuse_max_a": 6},
            "box.sun.0.panels.0.label.fuse_max_a",
            "would not bear Isc",
        ),
        ("box.sun.0.series", 3, "box.sun.0.series", "do not make strings of 3"),
        ("box.vehicle.0.cut_out_v", 14.5, "box.vehicle.0.cut_out_v", "would never charge"),
        ("box.heater", {"on_below_c": 8, "off_above_c": 4}, "box.heater.off_above_c", "heater"),
        (
            "box.joining",
            {"kind": "combined", "members": ["moon"]},
            "box.joining.members.0",
            "no source of this box",
        ),
        (
            "use.shedding",
            {"first_percent": 20, "wanted_percent": 40},
            "use.shedding.wanted_percent",
            "before those that go first",
        ),
        (
            "use.appliances.0.pattern",
            {"type": "fridge", "duty_set_c": 5, "reference_c": 5},
            "use.appliances.0.pattern.reference_c",
            "its duty was told",
        ),
        ("trip.days.0.high_c", -20, "trip.days.0.high_c", "at its coldest"),
        (
            "box.battery.datasheet",
            {"rested_v": [{"percent": 0, "volts": 13}, {"percent": 100, "volts": 12}]},
            "box.battery.datasheet.rested_v",
            "must rise",
        ),
        ("trip.site.timezone", "Moor/Nowhere", "trip.site.timezone", "no time zone"),
        ("trip.blocks.0.end", "06:00", "trip.blocks.0.end", "before it starts"),
        ("box.inverter", None, "use.appliances.6.supply", "runs from an inverter"),
    ],
)
def test_parts_that_contradict_each_other_are_refused(
    document: dict[str, Any], path: str, value: object, where: str, text: str
) -> None:
    said = refusal(put(document, path, value))
    assert said.where == where
    assert text in said.text


def test_a_truncated_file_says_where_it_breaks_off(moth: Plan) -> None:
    said = refusal(plan_bytes(moth)[:500])
    assert "breaks off" in said.text
    assert "line" in said.value


@pytest.mark.parametrize("data", [b"", b"\xff\xfe", b"[]", b"7", b"[" * 100_000])
def test_what_is_no_plan_at_all_is_refused(data: bytes) -> None:
    assert refusal(data).remedy


def test_a_plan_from_a_newer_version_is_refused_and_said_so(document: dict[str, Any]) -> None:
    said = refusal(put(document, "version", 99))
    assert said.where == "version"
    assert "newer program (version 99)" in said.text


def test_another_kind_of_file_is_refused(document: dict[str, Any]) -> None:
    assert "another kind" in refusal(put(document, "format", "shopping-list")).text


def test_two_things_with_one_id_are_refused(document: dict[str, Any]) -> None:
    appliances = document["use"]["appliances"]
    appliances[1]["id"] = appliances[0]["id"]
    assert refusal(document).value == appliances[0]["id"]


def test_units_reach_the_json_schema() -> None:
    schema = Plan.model_json_schema()["$defs"]
    assert schema["BatteryModel"]["properties"]["capacity_ah"]["unit"] == "Ah"
    bare = [
        f"{name}.{field}"
        for name, part in schema.items()
        for field, detail in part.get("properties", {}).items()
        if detail.get("type") in {"number", "integer"} and "unit" not in detail
    ]
    assert bare == []


def test_a_series_bank_is_run_at_the_systems_voltage() -> None:
    case = case_from_plan(parse_plan((EXAMPLES / "coast-weekend.json").read_bytes()))
    assert case.bank.nominal_v == 24.0
    assert case.bank.capacity_ah == 200.0


def test_braces_in_what_was_typed_are_only_braces(document: dict[str, Any]) -> None:
    said = refusal(put(document, "trip.start", "{value} {0} {"))
    assert said.where == "trip.start"
    assert said.value == "{value} {0} {"


SOUND = [name for name in NAMES if name != "moth-survey.json"]


@pytest.mark.parametrize("name", SOUND)
def test_every_sample_box_but_the_demos_lasts_and_nothing_cuts_out(name: str) -> None:
    """The demo's Friday is tight on purpose."""
    run = run_plan(parse_plan((EXAMPLES / name).read_bytes()))
    assert run.track.served.min() == 1.0
    assert run.level.min() >= run.case.floor
    assert run.track.bus_v.min() > 10.0 * run.case.bank.volts_scale
    offered = sum(float(source.limit_a.max()) for source in run.sources)
    assert 0.0 < offered < 200.0
