"""A plan with its log and samples in one file comes back the same."""

from __future__ import annotations

import io
import zipfile
from datetime import datetime
from pathlib import Path

import pytest

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.formats.archive import LOG, PLAN, SAMPLES, pack, unpack
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store import samples as sample_store
from oddkettle.usecases.exchange.log_files import export, export_archive, import_archive
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry, delete_entry, list_entries
from oddkettle.usecases.field.samples.samples import ingest
from oddkettle.usecases.plans.plans import create_plan, open_plan, titles

AT_MS = 1780898400000


@pytest.fixture
def plan_id(store: Path, moth: Plan) -> int:
    """The demo plan with a log of every kind and some samples."""
    made = create_plan(moth).id
    day = datetime(2026, 6, 8)
    for new in (
        NewEntry(at=day.replace(hour=7), kind="monitor_percent", value=61.5, note="cold; clear"),
        NewEntry(at=day.replace(hour=8), kind="counters", ah_in=3.5, ah_out=20, since=day),
        NewEntry(at=day.replace(hour=9), kind="drove", until=day.replace(hour=10)),
        NewEntry(at=day.replace(hour=12), kind="sky", sky="overcast"),
    ):
        add_entry(made, new)
    gone = add_entry(made, NewEntry(at=day, kind="full"))
    delete_entry(made, gone.id)
    ingest(made, [Sample(AT_MS + 1000 * n, n, 13.0 + n / 7, -1.5, 50.25) for n in range(9)], [])
    return made


def test_an_archive_imports_back_identically(plan_id: int) -> None:
    data = export_archive(plan_id)
    again = import_archive(data)
    assert again.id != plan_id
    assert again.document == open_plan(plan_id).document
    mine, theirs = list_entries(plan_id), list_entries(again.id)
    assert [e.model_copy(update={"id": 0}) for e in theirs] == [
        e.model_copy(update={"id": 0}) for e in mine
    ]
    assert list(sample_store.every(again.id)) == list(sample_store.every(plan_id))
    assert export_archive(again.id) == data


def test_every_export_has_a_line_for_everything(plan_id: int) -> None:
    import csv
    import json

    log = list(csv.DictReader(io.StringIO("".join(export(plan_id, "log", "csv")))))
    assert [row["kind"] for row in log] == ["monitor_percent", "counters", "drove", "sky"]
    assert log[0]["note"] == "cold; clear"
    samples = json.loads("".join(export(plan_id, "samples", "json")))
    assert len(samples) == 9
    assert samples[2]["percent"] == 50.25
    tracked = list(csv.DictReader(io.StringIO("".join(export(plan_id, "tracked", "csv")))))
    assert tracked[0]["at_utc"] == "2026-06-05T23:00:00+00:00"
    for row in tracked:
        assert (
            float(row["low_percent"]) <= float(row["middle_percent"]) <= float(row["high_percent"])
        )


def test_an_empty_export_is_still_a_document(store: Path, moth: Plan) -> None:
    import json

    made = create_plan(moth).id
    assert json.loads("".join(export(made, "log", "json"))) == []
    assert "".join(export(made, "samples", "csv")).startswith("at_utc,")


def spoiled(data: bytes, name: str, body: bytes | None) -> bytes:
    """The archive with one part replaced, or left out."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for part in old.namelist():
            if part != name:
                new.writestr(part, old.read(part))
        if body is not None:
            new.writestr(name, body)
    return out.getvalue()


@pytest.mark.parametrize(
    ("part", "body", "text"),
    [
        (PLAN, None, "no plan.json"),
        (PLAN, b"{}", ""),
        (LOG, b"{}\n", "Line 1 of log.ndjson"),
        (LOG, b"not json\n", "Line 1 of log.ndjson"),
        (SAMPLES, b'{"at": "2026-06-08T06:00:00Z"}\n', "Line 1 of samples.ndjson"),
        (SAMPLES, b'{"at": "1999-06-08T06:00:00Z", "volts": 13}\n', "outside the trip"),
    ],
)
def test_a_spoiled_archive_is_refused_and_leaves_nothing_behind(
    plan_id: int, part: str, body: bytes | None, text: str
) -> None:
    before = len(titles())
    with pytest.raises(PlanRefused) as caught:
        import_archive(spoiled(export_archive(plan_id), part, body))
    assert text in caught.value.complaints[0].text
    assert len(titles()) == before


@pytest.mark.parametrize("data", [b"", b"PK\x03\x04", b"{}", b"\x00" * 100])
def test_another_file_is_no_archive(data: bytes) -> None:
    with pytest.raises(PlanRefused, match="archive"):
        unpack(data)


def test_the_same_content_packs_to_the_same_bytes() -> None:
    sample = Sample(AT_MS, 1, 13.0)
    assert pack(b"{}", [], [sample]) == pack(b"{}", [], [sample])
