"""A plan with its log and samples in one file: a zip of open formats, see docs/formats.md."""

from __future__ import annotations

import io
import json
import lzma
import zipfile
import zlib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.core.values.cancellation import while_waited_for
from oddkettle.formats.samples_ndjson import BadLine, line_of, parse_line
from oddkettle.plan.plan_errors import Complaint, PlanRefused

PLAN, LOG, SAMPLES = "plan.json", "log.ndjson", "samples.ndjson"
MAX_BYTES = {PLAN: 4_000_000, LOG: 32_000_000, SAMPLES: 160_000_000}
"""Of each part, unpacked. A plan with everything in it takes less than a quarter of it."""
LONGEST_LINE = 20_000
MAX_ENTRIES, MAX_SAMPLES = 50_000, 1_500_000
"""A year of a reading every ten minutes; three months of a sample every five seconds."""
STAMP = (1980, 1, 1, 0, 0, 0)
"""The same content gives the same bytes, whenever it is packed."""
ENTRY_FIELDS = ("at_utc", "kind", "value", "note", "written_at", "written_by", "detail")


@dataclass(frozen=True)
class Archive:
    """What an archive holds. Entries are plain objects with ENTRY_FIELDS."""

    plan: bytes
    entries: list[dict[str, Any]]
    data: bytes

    def samples(self) -> Iterator[Sample]:
        """Its samples, read anew each time, so that a million never stand in memory.

        Raises PlanRefused at the first line that is none.
        """
        for n, line in _lines(self.data, SAMPLES, MAX_SAMPLES):
            try:
                yield parse_line(line)
            except BadLine as bad:
                raise _refused(f"Line {n} of {SAMPLES} is no sample: {bad}.", f"line {n}") from None


DAMAGED = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, EOFError, NotImplementedError, RuntimeError,
    OSError, OverflowError,
)  # fmt: skip


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
            for name, most in MAX_BYTES.items():
                if known.get(name, 0) > most:
                    raise _refused(
                        f"{name} is too large: at most {most:,} bytes.", f"{known[name]:,} bytes"
                    )
            plan = packed.read(PLAN)
    except DAMAGED:
        raise _damaged() from None
    return Archive(plan, [_entry(line, n) for n, line in _lines(data, LOG, MAX_ENTRIES)], data)


def _lines(data: bytes, name: str, most: int) -> Iterator[tuple[int, bytes]]:
    """(number, line) of a part, read as they are asked for; none where the part is missing."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if name not in packed.namelist():
                return
            with packed.open(name) as part:
                lines = iter(lambda: part.readline(LONGEST_LINE), b"")
                for n, line in enumerate(while_waited_for(lines), start=1):
                    if len(line) == LONGEST_LINE:
                        raise _refused(f"Line {n} of {name} is too long.", f"line {n}")
                    if n > most:
                        raise _refused(f"{name} is too long: at most {most:,} lines.", "more")
                    if line.strip():
                        yield n, line
    except DAMAGED:
        raise _damaged() from None


def _damaged() -> PlanRefused:
    return _refused("This is no archive of a plan and its log.", "a damaged or other file")


def _entry(line: bytes, n: int) -> dict[str, Any]:
    try:
        entry = json.loads(line)
        return {name: entry[name] for name in ENTRY_FIELDS}
    except (ValueError, KeyError, TypeError):
        raise _refused(f"Line {n} of {LOG} is no entry.", f"line {n}") from None


def _refused(text: str, value: str) -> PlanRefused:
    remedy = "Export it again, or import the plan alone."
    limit = f"a zip with {PLAN}, {LOG} and {SAMPLES}"
    return PlanRefused([Complaint(where="", value=value, limit=limit, remedy=remedy, text=text)])
