"""Building as the pages get it: the report, prices, prints and ticks."""

from __future__ import annotations

import re
from pathlib import Path

import pypdfium2
import pytest
from pydantic import ValidationError

from oddkettle.core.construction.text import count_text
from oddkettle.core.units.quantity import money
from oddkettle.plan import Plan
from oddkettle.plan.making.document import (
    Build,
    CircuitChoice,
    EnclosureModel,
    FaceItem,
    OwnedPart,
    PlacedPart,
)
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.results.build import BuildReport, CircuitReport
from oddkettle.text import Habits, render
from oddkettle.usecases.build.prints import SHEETS, print_document, print_plan, read_prices
from oddkettle.usecases.build.ticks import AFRESH, NewTick, list_ticks, tick, untick
from oddkettle.usecases.build.work import report_build, report_moved
from oddkettle.usecases.exchange.log_files import export_archive, import_archive
from oddkettle.usecases.field.log.log import list_entries
from oddkettle.usecases.field.track.track_report import track_plan
from oddkettle.usecases.field.track.trip_report import report_trip
from oddkettle.usecases.plans.plans import create_plan
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example


def built(plan: Plan, **fields: object) -> BuildReport:
    return report_build(with_build(plan, **fields))


def with_build(plan: Plan, **fields: object) -> Plan:
    build = Build.model_validate({**plan.build.model_dump(), **fields})
    return plan.model_copy(update={"build": build})


def circuits_judged(report: BuildReport) -> list[str]:
    """What is said of its circuits that is more than a note: a plug's live half is always told."""
    return [
        j.code for j in report.judgements if j.part.startswith("circuit:") and j.severity != "note"
    ]


def circuit(report: BuildReport, key: str) -> CircuitReport:
    return next(c for c in report.circuits if c.key == key)


def test_a_box_with_nothing_against_it_says_so_first(moth: Plan) -> None:
    shorter = moth.trip.model_copy(update={"days": moth.trip.days[:1], "blocks": []})
    report = report_build(moth.model_copy(update={"trip": shorter}))
    assert report.headline == "12 circuits, no problems found, and everything fits."
    assert {j.severity for j in report.judgements} <= {"note"}
    assert "60 A class T fuse" in report.detail


def test_with_a_fault_of_the_trip_nothing_is_called_sound(moth: Plan) -> None:
    report = report_build(moth)
    assert report.headline == "12 circuits, no problems found, and everything fits."
    assert report.detail.startswith("On this trip something is missing, though. Cool box, 28 L")
    assert "sound" not in report.headline
    assert circuits_judged(report) == []


@pytest.mark.parametrize("fix", [False, True])
def test_a_machine_that_health_hangs_on_wants_a_second_source_before_anything_is_sound(
    fix: bool,
) -> None:
    plan = example("night-breather")
    report = report_build(plan)
    judged = next(j for j in report.judgements if j.code == "medical-single-source")
    if fix:
        assert judged.fix is not None
        report = report_build(with_edits(plan, judged.fix.edits))
    assert ("must not lose power, and this box is its only source" in report.headline) is not fix
    assert ("no problems found" in report.headline) is fix
    assert "sound" not in report.headline


def test_a_danger_is_the_headline(moth: Plan) -> None:
    report = built(moth, circuits=[CircuitChoice(circuit="inverter", protection="none")])
    assert report.headline.startswith("Not safe yet: Circuit 7, Inverter")
    assert report.judgements[0].code == "circuit-unfused"


def test_what_does_not_go_in_is_the_headline_when_nothing_else_is_wrong(moth: Plan) -> None:
    report = built(moth, enclosure=EnclosureModel(length_mm=300, width_mm=200, height_mm=200))
    assert report.headline.startswith(
        "12 circuits, no problems found in them, but it does not fit yet:"
    )
    assert report.fit is not None
    assert "does not fit by 58 mm in height, even by itself" in report.fit.verdict


def test_a_remedy_on_a_circuit_is_one_edit_and_mends_it(moth: Plan) -> None:
    plan = with_build(moth, circuits=[CircuitChoice(circuit="charge-dcdc", cable_mm2=1.5)])
    report = report_build(plan)
    fix = next(j.fix for j in report.judgements if j.code == "fuse-over-cable")
    assert fix is not None
    after = report_build(with_edits(plan, fix.edits))
    assert circuits_judged(after) == []
    assert circuit(after, "charge-dcdc").fixed == ["cable_mm2"]


def test_a_feed_that_the_box_states_is_mended_in_the_box(moth: Plan) -> None:
    vehicle = moth.box.vehicle[0]
    thin = vehicle.model_copy(update={"feed": vehicle.feed.model_copy(update={"area_mm2": 6.0})})
    plan = moth.model_copy(update={"box": moth.box.model_copy(update={"vehicle": [thin]})})
    fix = next(j.fix for j in report_build(plan).judgements if j.code == "drop-over")
    assert fix is not None
    assert fix.edits[0].path == ["box", "vehicle", 0, "feed", "area_mm2"]
    mended = with_edits(plan, fix.edits)
    assert circuits_judged(report_build(mended)) == []
    assert mended.build == plan.build


def test_a_panels_lead_is_mended_in_the_box_where_it_is_stated(moth: Plan) -> None:
    sun = moth.box.sun[0].model_copy(update={"cable_m": 15.0, "cable_mm2": 2.5})
    plan = moth.model_copy(update={"box": moth.box.model_copy(update={"sun": [sun]})})
    fix = next(j.fix for j in report_build(plan).judgements if j.code == "drop-over")
    assert fix is not None
    assert fix.edits[0].path == ["box", "sun", 0, "cable_mm2"]
    assert circuits_judged(report_build(with_edits(plan, fix.edits))) == []


def test_the_run_is_the_same_whatever_is_built(moth: Plan) -> None:
    a = report_build(moth)
    b = built(moth, cable_series="awg", placed=[PlacedPart(part="battery", x_mm=30, y_mm=30)])
    assert [c.seen_a for c in a.circuits] == [c.seen_a for c in b.circuits]
    assert circuit(b, "inverter").cable.endswith(" AWG")


def test_every_figure_of_a_circuit_opens_to_its_sum(moth: Plan) -> None:
    for c in report_build(moth).circuits:
        text = " ".join(c.how)
        assert f"{c.continuous_a:.1f} A for hours" in text
        assert f"= {c.drop_v:.2f} V" in text
        assert f"= {c.ampacity_a:.0f} A, with insulation for" in text


def test_an_engine_bay_and_a_bundle_are_in_the_sum(moth: Plan) -> None:
    report = built(moth, circuits=[CircuitChoice(circuit="feed-dcdc", bundled=True)])
    text = " ".join(circuit(report, "feed-dcdc").how)
    # 140 A x 0.7 x 0.85
    assert "Bears 140 A in free air x 0.7 in a bundle x 0.85 in an engine bay = 83 A" in text


def test_choices_are_told_from_what_the_tool_and_the_box_say(moth: Plan) -> None:
    report = built(moth, circuits=[CircuitChoice(circuit="inverter", fuse_a=50)])
    assert circuit(report, "inverter").fixed == ["fuse_a"]
    assert circuit(report, "feed-dcdc").stated == ["cable_mm2", "run_m"]
    assert circuit(report, "charge-dcdc").fixed == circuit(report, "charge-dcdc").stated == []


def test_a_strong_inverter_on_a_small_battery_is_told_in_plain_words(moth: Plan) -> None:
    strong = moth.box.inverter.model_copy(update={"rating_w": 3500.0})  # type: ignore[union-attr]
    plan = moth.model_copy(update={"box": moth.box.model_copy(update={"inverter": strong})})
    said = next(j for j in report_build(plan).judgements if j.code == "nothing-suits")
    assert said.severity == "danger"
    assert "the largest" in said.text
    assert "An inverter of" in said.text
    lacks = next(line for line in report_build(plan).parts.lines if line.lacks)
    assert lacks.name == "No fuse suits circuit 1, Battery"
    assert "the largest" in lacks.lacks


def test_a_metal_case_asks_for_caps_on_the_posts(moth: Plan) -> None:
    bare = moth.box.housing.model_copy(update={"posts_covered": False})
    plan = moth.model_copy(update={"box": moth.box.model_copy(update={"housing": bare})})

    def codes(material: str) -> set[str]:
        built = with_build(plan, enclosure=EnclosureModel(material=material))  # type: ignore[arg-type]
        return {j.code for j in report_plan(built, series=False).judgements or []}

    assert "conductive-enclosure" in codes("metal")
    assert "conductive-enclosure" not in codes("wood")


def test_a_ready_made_unit_is_not_built(moth: Plan) -> None:
    report = report_build(example("coast-unit"))
    assert report.fit is None
    assert report.faces is None
    assert "Nothing is built inside" in report.headline
    assert report.parts.ready_made == "This plan is a ready-made unit."


def test_the_comparison_with_a_ready_made_unit_says_both_sides(moth: Plan) -> None:
    said = render(report_build(moth).parts.ready_made)
    # 90 Ah x 12.8 V x 650 euro/kWh x 0.7 and x 1.4, 11 kg/kWh
    assert "€ 524 to 1048 and 13 kg" in said
    assert "this box to 11 %" in said


IN_WH = Habits(unit="Wh")


def test_energy_by_weight_and_money_by_hand(moth: Plan) -> None:
    report = report_build(moth)
    wh = 90 * 12.8 * (1 - moth.trip.floor_percent / 100)
    assert render(report.parts.per_kg, IN_WH).startswith(
        f"{wh / report.parts.carried_kg:.0f} Wh usable"
    )
    price = (report.parts.all_low + report.parts.all_high) / 2
    assert render(report.parts.per_euro, IN_WH).startswith(f"{100 * wh / price:.0f} Wh usable")


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("circuits", [{"circuit": "battery", "run_m": 0}]),
        ("circuits", [{"circuit": "battery", "fuse_a": 0}]),
        ("circuits", [{"circuit": "bat tery"}]),
        ("enclosure", {"length_mm": 10}),
        ("items", [{"item": "meter", "face": "lid", "x_mm": 1, "y_mm": 1}]),
        ("placed", [{"part": "battery", "x_mm": -5, "y_mm": 0}]),
        ("ambient_c", 200),
    ],
)
def test_a_building_that_cannot_be_is_refused(moth: Plan, field: str, value: object) -> None:
    with pytest.raises(ValidationError):
        with_build(moth, **{field: value})


def test_prices_are_laid_over_what_is_known(moth: Plan) -> None:
    plan = with_build(moth, parts=[OwnedPart(part="shunt", kg=0.4, length_mm=100)])
    got = read_prices(plan, "part,euro_each,owned\nshunt,60,yes\nflux,1,no\n")
    assert (got.read, got.unknown) == (1, ["flux"])
    (shunt,) = got.parts
    assert (shunt.euro, shunt.kg, shunt.length_mm, shunt.owned) == (60.0, 0.4, 100.0, True)


def test_a_list_that_went_out_comes_back_without_change(moth: Plan) -> None:
    plan = with_build(moth, parts=[OwnedPart(part="shunt", euro=60, kg=0.4, owned=True)])
    table = print_document(plan, "parts.csv").decode()
    got = read_prices(plan, table)
    assert got.unknown == []
    assert [part for part in got.parts if part.euro is not None] == plan.build.parts


def test_every_print_has_bytes_of_its_kind(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    for name in (*SHEETS, "schematic.svg", "parts.csv"):
        file, kind, data = print_plan(plan_id, name)  # type: ignore[arg-type]
        assert file.startswith("moth-survey-nine-nights-")
        start = {"pdf": b"%PDF", "svg": b"<svg", "csv": b"part"}[name.rpartition(".")[2]]
        assert data.startswith(start)
        assert kind


@pytest.mark.parametrize(
    ("low", "high", "said"),
    [(1.5, 3.0, "€ 1.50 to 3.00"), (20, 41, "€ 20 to 41"), (12, 12, "€ 12")],
)
def test_a_price_is_said_as_a_range_or_as_itself(low: float, high: float, said: str) -> None:
    assert render(money(low, high)) == said
    assert render(money(low, high), Habits(currency="USD")) == said.replace("€", "$")


def test_a_count_is_said_with_its_unit(moth: Plan) -> None:
    from oddkettle.usecases.build.work import work_out

    lines = work_out(moth)[0].lines
    assert {count_text(line) for line in lines if line.article.key == "shrink:6"} == {"1.5 m"}


FIRST = NewTick(checklist="first", check="polarity", text="Before first power: polarity")


def test_a_tick_is_kept_with_its_time_and_stands_in_the_log(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    (one,) = tick(plan_id, FIRST).now
    assert (one.checklist, one.check) == ("first", "polarity")
    assert one.at_local[10] == "T"
    (entry,) = list_entries(plan_id)
    assert entry.text == "ticked off"
    assert entry.note == "Before first power: polarity"


def test_a_tick_taken_back_is_gone_from_both(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    (one,) = tick(plan_id, FIRST).now
    assert untick(plan_id, one.entry).now == []
    assert list_entries(plan_id) == []


def test_a_list_begun_anew_keeps_the_last_date(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    tick(plan_id, FIRST)
    tick(plan_id, NewTick(checklist="leaving", check="level"))
    after = tick(plan_id, NewTick(checklist="first", check=AFRESH))
    assert [one.checklist for one in after.now] == ["leaving"]
    assert [one.check for one in after.before] == ["polarity"]
    again = tick(plan_id, FIRST)
    assert {one.checklist for one in again.now} == {"first", "leaving"}


def printed_ticks(plan_id: int) -> tuple[int, int]:
    """(ticked, open) boxes on the printed checklists."""
    _, _, data = print_plan(plan_id, "checks.pdf")
    text = " ".join(page.get_textpage().get_text_bounded() for page in pypdfium2.PdfDocument(data))
    for when in {one.at_local[:10] for one in list_ticks(plan_id).now}:
        # Each tick has its date beside it; the head of each page says when it was printed.
        assert text.count(when) - text.count(f"printed {when}") == text.count("[x]")
    return text.count("[x]"), len(re.findall(r"\[ *\]", text))


def test_what_is_ticked_is_printed_so_with_its_date(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    none, every = printed_ticks(plan_id)
    assert none == 0
    assert every > 40
    done = list(report_build(moth).checklists[0].checks)[:2]
    for check in done:
        tick(plan_id, NewTick(checklist="first", check=check.key))
    assert printed_ticks(plan_id) == (2, every - 2)
    tick(plan_id, NewTick(checklist="first", check=AFRESH))
    assert printed_ticks(plan_id) == (0, every)


def test_ticks_do_not_begin_a_trip(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    tick(plan_id, FIRST)
    assert not track_plan(plan_id).begun
    assert report_trip(plan_id).entries


def test_ticks_travel_with_the_archive(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    tick(plan_id, FIRST)
    copy = import_archive(export_archive(plan_id))
    assert [one.check for one in list_ticks(copy.id).now] == ["polarity"]


@pytest.mark.parametrize("bad", [{"checklist": "First power!"}, {"check": ""}, {"check": "a b"}])
def test_a_tick_of_nothing_is_refused(bad: dict[str, str]) -> None:
    with pytest.raises(ValidationError):
        NewTick(**{"checklist": "first", "check": "polarity", **bad})


def test_a_building_of_a_plan_that_cannot_run_is_refused(moth: Plan) -> None:
    battery = moth.box.battery.model_copy(update={"series": 2})
    plan = moth.model_copy(update={"box": moth.box.model_copy(update={"battery": battery})})
    with pytest.raises(PlanRefused):
        report_build(plan)


@pytest.mark.parametrize("name", ["moth-survey", "coast-unit", "winter-caravan"])
def test_what_is_told_while_something_is_moved_is_what_the_report_says(name: str) -> None:
    plan = example(name)
    report = report_build(plan)
    body = None if report.fit is None else report.fit.bodies[0]
    places = [] if body is None else [PlacedPart(part=body.key, x_mm=37, y_mm=11, turned=True)]
    meter = FaceItem(item="meter", face="back", x_mm=80, y_mm=60)
    changed = with_build(plan, placed=places, items=[meter])
    told, whole = report_moved(changed), report_build(changed)
    assert (told.enclosure, told.fit, told.faces) == (whole.enclosure, whole.fit, whole.faces)
    if body is not None:
        assert told.fit is not None
        moved = next(b for b in told.fit.bodies if b.key == body.key)
        assert (moved.x0, moved.y0, moved.pinned) == (37.0, 11.0, True)


def test_a_change_of_the_wiring_is_seen_though_the_run_is_kept(moth: Plan) -> None:
    assert report_build(moth).circuits[-1].key == "sense"
    assert built(moth, shunt=False).circuits[-1].key != "sense"
    assert report_build(moth).circuits[-1].key == "sense"
