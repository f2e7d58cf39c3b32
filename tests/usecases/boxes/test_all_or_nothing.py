"""Archives go in whole or not at all; one unreadable plan hides no other; names in any script."""

from __future__ import annotations

import io
import json
import time
import zipfile
from pathlib import Path
from typing import Any

import pytest

from oddkettle.api.download import saved_as
from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.formats.archive import LOG, PLAN, pack
from oddkettle.formats.plan_json import plan_bytes
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store import samples as sample_store
from oddkettle.store.file.tables import LogRow, PlanRow, RevisionRow, database
from oddkettle.usecases.boxes.boxes import box_cards
from oddkettle.usecases.exchange.log_files import export, import_archive
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry, list_entries
from oddkettle.usecases.plans.file_names import stem_of
from oddkettle.usecases.plans.plans import create_plan, kept_bytes, titles, unreadable_plans

AT = "2026-06-08T07:00:00+00:00"
GOOD: dict[str, Any] = {
    "at_utc": AT,
    "kind": "monitor_percent",
    "value": 61.5,
    "note": "",
    "written_at": AT,
    "written_by": "by hand",
    "detail": "{}",
}


def nothing_is_there() -> bool:
    samples = database.execute_sql("SELECT COUNT(*) FROM sample").fetchone()[0]
    return not samples and not any(row.select().count() for row in (PlanRow, RevisionRow, LogRow))


def archive(moth: Plan, *entries: dict[str, Any], samples: tuple[Sample, ...] = ()) -> bytes:
    return pack(plan_bytes(moth), entries, samples)


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("kind", "guessed"),
        ("kind", None),
        ("value", 161.5),
        ("value", "61"),
        ("value", True),
        ("value", 1e999),
        ("at_utc", "2026-06-08T07:00:00"),
        ("at_utc", "2031-06-08T07:00:00+00:00"),
        ("at_utc", 12),
        ("written_at", "yesterday"),
        ("note", "x" * 201),
        ("note", "bell \u0007"),
        ("note", None),
        ("written_by", ["a"]),
        ("detail", "{"),
        ("detail", '{"ah_in": -5}'),
        ("detail", '{"moon": 1}'),
        ("detail", None),
    ],
)
def test_an_archive_with_one_bad_entry_leaves_nothing(
    store: Path, moth: Plan, field: str, value: object
) -> None:
    with pytest.raises(PlanRefused) as caught:
        import_archive(archive(moth, GOOD, {**GOOD, field: value}))
    said = caught.value.complaints[0]
    assert said.where == f"log, line 2, {field}"
    assert said.limit
    assert nothing_is_there()


def test_what_fails_half_way_leaves_nothing(
    store: Path, moth: Plan, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The disk is full when the samples' turn comes: plan and log go with them."""

    def full(*_: object) -> int:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(sample_store, "put", full)
    sample = Sample(1780898400000, 1, 13.0, 1.0, 50.0)
    with pytest.raises(OSError, match="No space"):
        import_archive(archive(moth, GOOD, samples=(sample,)))
    assert nothing_is_there()


def test_thirty_thousand_entries_go_in_at_once(store: Path, moth: Plan) -> None:
    data = archive(moth, *([GOOD] * 30_000))
    begin = time.perf_counter()
    opened = import_archive(data)
    print(f"30,000 entries in {time.perf_counter() - begin:.1f} s")
    assert LogRow.select().where(LogRow.plan == opened.id).count() == 30_000


def test_ticks_may_lie_before_the_trip(store: Path, moth: Plan) -> None:
    tick = {
        **GOOD,
        "kind": "ticked",
        "value": 0.0,
        "at_utc": "2026-05-01T07:00:00+00:00",
        "detail": '{"check": "build/fuse"}',
    }
    assert len(list_entries(import_archive(archive(moth, tick)).id)) == 1


def test_a_zip_that_is_cut_off_is_refused(store: Path, moth: Plan) -> None:
    data = archive(moth, GOOD)
    for end in (len(data) // 3, len(data) - 30):
        with pytest.raises(PlanRefused):
            import_archive(data[:end])
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr(PLAN, plan_bytes(moth))
        packed.writestr(LOG, b"\xff\xfe\n")
    with pytest.raises(PlanRefused):
        import_archive(out.getvalue())
    assert nothing_is_there()


def test_one_unreadable_plan_hides_no_other(store: Path, moth: Plan) -> None:
    first, second = create_plan(moth), create_plan(moth.model_copy(update={"name": "Second"}))
    row = RevisionRow.get(RevisionRow.plan == first.id)
    damaged = json.loads(row.document)
    damaged["box"]["battery"]["capacity_ah"] = "much"
    RevisionRow.update(document=json.dumps(damaged)).where(RevisionRow.id == row.id).execute()
    assert [title.id for title in titles()] == [second.id]
    assert [trip.plan_id for card in box_cards() for trip in card.trips] == [second.id]
    (said,) = unreadable_plans()
    assert (said.plan_id, said.name) == (first.id, moth.name)
    assert said.why.startswith("box.battery.capacity_ah")
    name, data = kept_bytes(first.id)
    assert name.endswith(".json")
    assert json.loads(data) == damaged


@pytest.mark.parametrize(
    ("name", "stem"),
    [
        ("Moth survey, nine nights", "moth-survey-nine-nights"),
        ("Поездка на озеро", "поездка-на-озеро"),
        ("湖への旅 / 2", "湖への旅-2"),
        ("رحلة إلى البحيرة", "رحلة-إلى-البحيرة"),
        ("किला", "किला"),
        ("../../etc/passwd", "etc-passwd"),
        ("///", "plan"),
    ],
)
def test_a_plan_of_any_name_is_saved_under_it(name: str, stem: str) -> None:
    assert stem_of(name) == stem
    header = saved_as(f"{stem}.json")["Content-Disposition"]
    header.encode("latin-1")
    assert header.startswith('attachment; filename="')
    assert header.count('"') == 2
    if not stem.isascii():
        from urllib.parse import unquote

        assert unquote(header.partition("filename*=UTF-8''")[2]) == f"{stem}.json"


@pytest.mark.parametrize("odd", ["a\u0000b", "line\nbreak", "\ud800"])
def test_names_that_nobody_can_read_are_refused(document: dict[str, Any], odd: str) -> None:
    from tests.plan.test_document import refusal

    document["name"] = odd
    assert "cannot be read" in refusal(document).text


def test_a_note_that_is_a_formula_stays_text_in_a_table(store: Path, moth: Plan) -> None:
    made = create_plan(moth).id
    for n, note in enumerate(("=1+1", "+49 30", "@SUM(A1)", "-5", "fine")):
        entry = NewEntry.model_validate({"at": f"2026-06-08T0{n}:00", "kind": "full", "note": note})
        add_entry(made, entry)
    table = "".join(export(made, "log", "csv"))
    for note in ("'=1+1", "'+49 30", "'@SUM(A1)", "'-5"):
        assert f",{note}," in table
    assert ",fine," in table
    rows = json.loads("".join(export(made, "log", "json")))
    assert [row["note"] for row in rows] == ["=1+1", "+49 30", "@SUM(A1)", "-5", "fine"]
