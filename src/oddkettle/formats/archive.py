"""A plan with its log and samples in one file: a zip of open formats, see docs/formats.md."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.formats.samples_ndjson import BadLine, line_of, parse_line
from oddkettle.plan.plan_errors import Complaint, PlanRefused

PLAN, LOG, SAMPLES = "plan.json", "log.ndjson", "samples.ndjson"
LARGEST_PART_BYTES = 512_000_000
STAMP = (1980, 1, 1, 0, 0, 0)
"""The same content gives the same bytes, whenever it is packed."""
ENTRY_FIELDS = ("at_utc", "kind", "value", "note", "written_at", "written_by", "detail")


@dataclass(frozen=True)
class Archive:
    """What an archive holds. Entries are plain objects with ENTRY_FIELDS."""

    plan: bytes
    entries: list[dict[str, Any]]
    samples: list[Sample]


def pack(plan: bytes, entries: Iterable[dict[str, Any]], samples: Iterable[Sample]) -> bytes:
    """The bytes of an archive."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        _put(packed, PLAN, plan)
        lines = (json.dumps({k: entry[k] for k in ENTRY_FIELDS}) for entry in entries)
        _put(packed, LOG, "".join(f"{line}\n" for line in lines).encode())
        _put(packed, SAMPLES, "".join(f"{line_of(sample)}\n" for sample in samples).encode())
    return out.getvalue()


def _put(packed: zipfile.ZipFile, name: str, data: bytes) -> None:
    info = zipfile.ZipInfo(name, STAMP)
    info.compress_type = zipfile.ZIP_DEFLATED
    packed.writestr(info, data)


def unpack(data: bytes) -> Archive:
    """What an archive holds. Raises PlanRefused for anything else."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            known = {info.filename: info.file_size for info in packed.infolist()}
            if PLAN not in known:
                raise _refused(f"There is no {PLAN} in it.", ", ".join(known) or "an empty file")
            for name in (PLAN, LOG, SAMPLES):
                if known.get(name, 0) > LARGEST_PART_BYTES:
                    raise _refused(f"{name} is too large.", f"{known[name]:,} bytes")
            plan = packed.read(PLAN)
            log = packed.read(LOG) if LOG in known else b""
            samples = packed.read(SAMPLES) if SAMPLES in known else b""
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError):
        raise _refused(
            "This is no archive of a plan and its log.", "a damaged or other file"
        ) from None
    return Archive(plan, [_entry(line, n) for n, line in _lines(log)], _samples(samples))


def _lines(data: bytes) -> list[tuple[int, bytes]]:
    return [(n, line) for n, line in enumerate(data.split(b"\n"), start=1) if line.strip()]


def _entry(line: bytes, n: int) -> dict[str, Any]:
    try:
        entry = json.loads(line)
        return {name: entry[name] for name in ENTRY_FIELDS}
    except (ValueError, KeyError, TypeError):
        raise _refused(f"Line {n} of {LOG} is no entry.", f"line {n}") from None


def _samples(data: bytes) -> list[Sample]:
    found = []
    for n, line in _lines(data):
        try:
            found.append(parse_line(line))
        except BadLine as bad:
            raise _refused(f"Line {n} of {SAMPLES} is no sample: {bad}.", f"line {n}") from None
    return found


def _refused(text: str, value: str) -> PlanRefused:
    remedy = "Export it again, or import the plan alone."
    limit = f"a zip with {PLAN}, {LOG} and {SAMPLES}"
    return PlanRefused([Complaint(where="", value=value, limit=limit, remedy=remedy, text=text)])
