"""Samples of a battery monitor as lines of JSON, one object a line: see docs/formats.md."""

from __future__ import annotations

from datetime import UTC, datetime

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.plan.quantities import AwareMoment

MAX_LINES = 100_000
MAX_VOLTS, MAX_AMPS, MAX_AH = 1000.0, 10_000.0, 1e9


class SampleLine(BaseModel):
    """One moment of a monitor. `amps` into the battery is positive."""

    model_config = ConfigDict(extra="ignore", allow_inf_nan=False)

    at: AwareMoment
    seq: int | None = Field(default=None, ge=0, le=2**62)
    volts: float | None = Field(default=None, ge=0, le=MAX_VOLTS)
    amps: float | None = Field(default=None, ge=-MAX_AMPS, le=MAX_AMPS)
    percent: float | None = Field(default=None, ge=0, le=100)
    ah_in: float | None = Field(default=None, ge=0, le=MAX_AH)
    ah_out: float | None = Field(default=None, ge=0, le=MAX_AH)


class BadLine(ValueError):
    """A line that is no sample, with what is wrong."""


def parse_line(line: bytes | str) -> Sample:
    """A sample from one line. Raises BadLine."""
    try:
        read = SampleLine.model_validate_json(line)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the line"
        raise BadLine(f"{where}: {first['msg']}") from None
    shown = (read.volts, read.amps, read.percent, read.ah_in, read.ah_out)
    if all(value is None for value in shown):
        raise BadLine("it shows nothing: give volts, amps, percent, ah_in or ah_out")
    return Sample(round(read.at.timestamp() * 1000), read.seq, *shown)


def line_of(sample: Sample) -> str:
    """A sample as one line."""
    at = datetime.fromtimestamp(sample.at_ms / 1000, UTC)
    line = SampleLine(at=at, **{k: v for k, v in sample._asdict().items() if k != "at_ms"})
    return line.model_dump_json(exclude_none=True)
