"""Samples of a monitor: taken in once each, shown thinned out, turned into readings."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from datetime import UTC, datetime

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.core.estimation.readings import Reading
from oddkettle.core.trip.grid import zone_named
from oddkettle.core.units.quantity import clock
from oddkettle.core.values.cancellation import while_waited_for
from oddkettle.formats.samples_ndjson import MAX_LINES, BadLine, parse_line
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import refused
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import samples as store
from oddkettle.store.samples import Quarter, Thinned
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.events import hub

MAX_POINTS = 2000
COUNT_EVERY_S = 6 * 3600
"""Counters are taken every so often, the percent half as often: it is made of the counters."""
MAX_COUNTS = 80
"""Over a long trip they are taken more seldom, by doubling, so that this many are not passed."""
MAX_REFUSALS = 20
SAMPLE = "sample "
"""How the key of a reading begins that a monitor's samples made; its second follows."""


class Refused(LazyModel):
    """A line that was not stored, and why."""

    line: int
    text: str


class Ingested(LazyModel):
    """What became of the samples. Everything that is not refused is safe on disk."""

    stored: int
    duplicates: int
    refused: int
    refusals: list[Refused]
    """The first ones that were refused."""


class Spread(LazyModel):
    """Least, most and mean of a stretch."""

    least: float
    most: float
    mean: float


class SamplePoint(LazyModel):
    """Some samples as one."""

    at_utc: dt.datetime
    count: int
    volts: Spread | None
    amps: Spread | None
    percent: Spread | None


class SampleView(LazyModel):
    """A stretch of samples, thinned out."""

    total: int
    """How many are stored of this plan."""
    from_utc: dt.datetime
    until_utc: dt.datetime
    points: list[SamplePoint]


def trip_span_ms(plan: Plan) -> tuple[int, int]:
    """First and last moment of a trip, with a day on both sides [UTC ms]."""
    zone = zone_named(plan.trip.site.timezone)
    first = datetime.combine(plan.trip.start, datetime.min.time(), tzinfo=zone)
    day_ms = 86_400_000
    start = int(first.timestamp() * 1000)
    return start - day_ms, start + (len(plan.trip.days) + 1) * day_ms


def ingest_lines(plan_id: int, data: bytes) -> Ingested:
    """Store samples from lines of JSON. Raises PlanRefused when there are too many at once."""
    count = data.count(b"\n") + (not data.endswith(b"\n"))
    if count > MAX_LINES:
        raise refused(
            "lines",
            f"{count:,}",
            f"at most {MAX_LINES:,}",
            "Send them in several pieces; sending one twice does no harm.",
            f"{count:,} lines are too many at once.",
        )
    lines = [(n, line) for n, line in enumerate(data.split(b"\n"), start=1) if line.strip()]
    samples: list[Sample] = []
    refusals: list[Refused] = []
    for n, line in while_waited_for(lines):
        try:
            samples.append(parse_line(line))
        except BadLine as bad:
            refusals.append(Refused(line=n, text=str(bad)))
    return ingest(plan_id, samples, refusals)


def ingest(plan_id: int, samples: Sequence[Sample], refusals: list[Refused]) -> Ingested:
    """Store samples; those off the trip are refused, those stored already are counted as such."""
    plan = open_plan(plan_id).document
    first, last = trip_span_ms(plan)
    inside = [sample for sample in samples if first <= sample.at_ms < last]
    outside = [sample for sample in samples if not first <= sample.at_ms < last]
    refusals = list(refusals)
    if outside:
        when = datetime.fromtimestamp(outside[0].at_ms / 1000, UTC)
        text = f"{len(outside)} lie outside the trip, like {when:%d %b %Y} {clock(when)} UTC"
        refusals.append(Refused(line=0, text=f"{text}: is the monitor's clock right?"))
    stored = store.put(plan_id, inside)
    if stored:
        hub.tell(plan_id)
    return Ingested(
        stored=stored,
        duplicates=len(inside) - stored,
        refused=len(outside) + sum(refusal.line > 0 for refusal in refusals),
        refusals=refusals[:MAX_REFUSALS],
    )


def view(
    plan_id: int,
    since: datetime | None = None,
    until: datetime | None = None,
    points: int = 300,
) -> SampleView:
    """Samples of a stretch of the trip, the whole of it when no bounds are given."""
    first, last = trip_span_ms(open_plan(plan_id).document)
    from_ms = first if since is None else max(int(since.timestamp() * 1000), first)
    until_ms = last if until is None else min(int(until.timestamp() * 1000), last)
    found = store.thinned(plan_id, from_ms, until_ms, min(max(points, 2), MAX_POINTS))
    return SampleView(
        total=store.count(plan_id),
        from_utc=_utc(from_ms),
        until_utc=_utc(until_ms),
        points=[_point(thin) for thin in found],
    )


def _utc(at_ms: int) -> datetime:
    return datetime.fromtimestamp(at_ms / 1000, UTC)


def _point(thin: Thinned) -> SamplePoint:
    def spread(three: tuple[float, float, float] | None) -> Spread | None:
        return None if three is None else Spread(least=three[0], most=three[1], mean=three[2])

    return SamplePoint(
        at_utc=_utc(thin.at_ms),
        count=thin.number,
        volts=spread(thin.volts),
        amps=spread(thin.amps),
        percent=spread(thin.percent),
    )


def sampled_at(key: str) -> int | None:
    """When the samples were taken that made a reading [s since 1970]; None of an entry's."""
    return int(key.removeprefix(SAMPLE).split()[0]) if key.startswith(SAMPLE) else None


def readings_of_samples(quarters: Sequence[Quarter]) -> tuple[Reading, ...]:
    """What a monitor's samples say to the tracker.

    What it counted over some hours, and now and then its percent; over a reset of its counters
    nothing is said.
    """
    found: list[Reading] = []
    every_s = COUNT_EVERY_S
    span_s = (quarters[-1].last_ms - quarters[0].last_ms) / 1000 if quarters else 0.0
    while span_s > MAX_COUNTS * every_s:
        every_s *= 2
    mark: tuple[int, float, float] | None = None
    last = (0, 0.0, 0.0)
    percent_s = 0
    for quarter in quarters:
        at_s = quarter.last_ms // 1000
        if quarter.percent is not None and at_s - percent_s >= 2 * every_s:
            percent_s = at_s
            found.append(Reading(f"{SAMPLE}{at_s} %", at_s, "percent", quarter.percent / 100))
        if quarter.ah_in is None or quarter.ah_out is None:
            continue
        stands = (at_s, quarter.ah_in, quarter.ah_out)
        if mark is None or stands[1] < last[1] or stands[2] < last[2]:
            mark = stands
        elif at_s - mark[0] >= every_s:
            ran_in, ran_out = stands[1] - mark[1], stands[2] - mark[2]
            found.append(Reading(f"{SAMPLE}{at_s} in", at_s, "ah_in", ran_in, since_s=mark[0]))
            found.append(Reading(f"{SAMPLE}{at_s} out", at_s, "ah_out", ran_out, since_s=mark[0]))
            mark = stands
        last = stands
    return tuple(found)
