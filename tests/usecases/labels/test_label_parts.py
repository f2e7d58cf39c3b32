"""A label that is taken over gives a part that the plan accepts, and changes nothing else."""

from __future__ import annotations

from datetime import date

import pytest

from oddkettle.plan.box import BatteryModel, DatasheetModel, InverterModel, UnitModel
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.sun import ControllerModel, PanelModel
from oddkettle.plan.sources.vehicle import VehicleModel
from oddkettle.plan.use import ApplianceModel, FridgePattern, Hours
from oddkettle.usecases.labels.parts import LabelParts
from oddkettle.usecases.labels.reading import LabelText, read_text
from oddkettle.usecases.onboarding.answers import begin_at, tell
from oddkettle.usecases.onboarding.labels import SentenceLabel, read_into
from tests.formats.labels.read_labels import labels

EVENING = [Hours(start="18:00", end="22:00")]
PARTS = LabelParts(
    panel=PanelModel(id="p", name="Roof panel", power_w=100, mount="tilted", tilt_deg=20),
    battery=BatteryModel(chemistry="agm", capacity_ah=80, age="years", parallel=2),
    controller=ControllerModel(limit_a=10),
    mains=MainsModel(id="m", name="Charger", limit_a=5),
    dcdc=VehicleModel(id="v", name="DC-DC"),
    inverter=InverterModel(rating_w=300, idle_w=5),
    unit=UnitModel(capacity_wh=500),
    appliance=ApplianceModel(id="a", name="Thing", power_w=10, hours=EVENING),
)


def read(text: str, kind: str) -> LabelParts:
    return read_text(LabelText.model_validate({"text": text, "kind": kind, "parts": PARTS})).parts


@pytest.mark.parametrize("label", labels(), ids=lambda one: one.title)
def test_every_label_of_the_corpus_gives_parts_that_hold(label) -> None:
    reading = read_text(
        LabelText.model_validate({"text": label.text, "kind": label.kind, "parts": PARTS})
    )
    again = LabelParts.model_validate(reading.parts.model_dump())
    assert again == reading.parts
    for name in LabelParts.model_fields:
        if label.kind not in (name, "unit"):
            assert getattr(reading.parts, name) == getattr(PARTS, name)


def test_a_panel_keeps_how_it_lies_and_gains_its_plate() -> None:
    panel = read("Pmax 100W Vmp 18.2V Imp 5.5A Voc 21.8V Isc 5.9A", "panel").panel
    assert panel is not None
    assert panel.label is not None
    assert (panel.name, panel.mount, panel.tilt_deg) == ("Roof panel", "tilted", 20)
    assert (panel.label.vmp_v, panel.label.voc_v) == (18.2, 21.8)


def test_figures_of_a_panel_that_do_not_agree_are_not_taken() -> None:
    panel = read("Pmax 400W, Vmp 18V, Imp 5.56A, Voc 21.6V, Isc 5.9A", "panel").panel
    assert panel is not None
    assert panel.power_w == 100
    swapped = read("Pm=50W Vm=22.1V Im=2.78A Vo=18V Is=2.95A", "panel").panel
    assert swapped is not None
    assert swapped.label is None


def test_another_chemistry_does_not_keep_the_old_ones_sheet() -> None:
    old = PARTS.battery
    assert old is not None
    had = old.model_copy(update={"absorption_v": 14.7, "datasheet": DatasheetModel(cycles=600)})
    asked = LabelText(
        text="12.8V 100Ah LiFePO4 max charge 50A",
        kind="battery",
        parts=LabelParts(battery=had),
    )
    found = read_text(asked).parts.battery
    assert found is not None
    assert found.datasheet is not None
    assert (found.chemistry, found.capacity_ah, found.parallel) == ("lifepo4", 100, 2)
    assert found.absorption_v is None
    assert (found.datasheet.cycles, found.datasheet.charge_limit_a) == (None, 50)


def test_a_fridge_of_268_wh_a_day_uses_so_much_at_25_degrees() -> None:
    fridge = ApplianceModel(
        id="f", name="Cool box", power_w=45, hours=EVENING, duty_percent=40, pattern=FridgePattern()
    )
    asked = LabelText(text="98 kWh/annum", kind="appliance", parts=LabelParts(appliance=fridge))
    found = read_text(asked).parts.appliance
    assert found is not None
    assert isinstance(found.pattern, FridgePattern)
    assert found.power_w * 24 * found.duty_percent / 100 == pytest.approx(98_000 / 365, rel=0.01)
    assert found.hours == [Hours(start="00:00", end="24:00")]
    assert found.pattern.reference_c == 25


def test_a_figure_out_of_range_is_left_out_and_told() -> None:
    reading = read_text(
        LabelText(
            text="Pmax 100W Vmp 18.2V Imp 5.5A Voc 21.8V Isc 5.9A, series fuse 900 A",
            kind="panel",
            parts=PARTS,
        )
    )
    assert reading.parts.panel is not None
    assert reading.parts.panel.label is not None
    assert reading.parts.panel.label.fuse_max_a is None
    (note,) = [note for note in reading.notes if note.field == "fuse_max_a"]
    assert "900" in note.text
    assert "400" in note.text


def test_a_string_of_panels_that_no_box_takes_is_told_and_not_taken() -> None:
    reading = read_text(
        LabelText(text="Pmax 100W Vmp 300V Imp 0.333A Voc 400V Isc 0.4A", kind="panel", parts=PARTS)
    )
    assert reading.parts.panel is not None
    assert reading.parts.panel.label is None
    assert {note.field for note in reading.notes} == {"vmp_v", "voc_v"}


@pytest.mark.parametrize("kind", LabelParts.model_fields)
@pytest.mark.parametrize(
    "text",
    [
        "9" * 3000, "1,1" * 2000, "Voc " * 1500, "1 V " * 1500, "(" * 6000, "0 V 0 A 0 W 0 Ah",
        "-5 Ah -12 V max charge -3 A", "1e9 W", "Ω" * 3000, "Vmp 0 V Imp 0 A Voc 0 V Isc 0 A",
        "efficiency 900 %, output 0 A, capacity 99999999 Ah, 99999 kWh/annum",
    ],
    ids=range(11),
)  # fmt: skip
def test_nonsense_is_told_and_never_breaks_a_part(kind: str, text: str) -> None:
    asked = LabelText.model_validate({"text": text[:6000], "kind": kind, "parts": PARTS})
    parts = read_text(asked).parts
    assert LabelParts.model_validate(parts.model_dump()) == parts


@pytest.mark.parametrize(
    "text", ["battery 0 Ah", "solar panel 99999 W", "230 V~ 90000 W", "DC-DC charger 90000 A"]
)
def test_a_figure_that_no_part_has_changes_no_sentence(text: str) -> None:
    base = begin_at("UTC", date(2026, 6, 1))
    assert read_into(SentenceLabel(text=text, base=base)).sentence is None


def test_a_charger_with_one_voltage_says_what_is_supposed_of_the_other() -> None:
    reading = read_text(
        LabelText(text="Battery charger OUTPUT: 14.6V 20A", kind="mains", parts=PARTS)
    )
    mains = reading.parts.mains
    assert mains is not None
    assert mains.profile is not None
    assert (mains.limit_a, mains.profile.absorption_v, mains.profile.float_v) == (20, 14.6, 13.6)
    assert any("supposed" in note.text for note in reading.notes)


def test_a_pasted_label_changes_its_own_part_of_the_sentence_alone() -> None:
    base = begin_at("UTC", date(2026, 6, 1))
    got = read_into(SentenceLabel(text="12V 120Ah AGM battery", base=base))
    assert got.sentence is not None
    assert (got.sentence.bank.kind, got.sentence.bank.size) == ("agm", 120)
    assert got.sentence.model_copy(update={"bank": base.bank}) == base
    panels = read_into(SentenceLabel(text="2 x 100W solar panel, Vmp 18 V, Voc 22 V", base=base))
    assert panels.sentence is not None
    assert [(one.kind, one.size) for one in panels.sentence.chargers] == [("folding", 200)]
    fridge = read_into(SentenceLabel(text="98 kWh/annum", base=base))
    assert fridge.sentence is not None
    plan = tell(fridge.sentence).plan
    added = plan.use.appliances[-1]
    hours = sum((int(h.end[:2]) - int(h.start[:2])) % 24 or 24 for h in added.hours)
    assert added.power_w * hours * added.duty_percent / 100 == pytest.approx(268.5, rel=0.02)
