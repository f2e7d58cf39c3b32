"""A monitor's samples: stored once each, summed by the quarter of an hour, read thinned out."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple

from peewee import chunked

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.store.file.tables import MonitorRow, PlanRow, database
from oddkettle.store.plans import NoSuchPlan

QUARTER_MS = 15 * 60 * 1000
PAGE = 5_000
"""Rows handed over at a time, so that a million never stand in memory."""


class Thinned(NamedTuple):
    """Several samples as one: how many (`number`), and least, most and mean of what they showed."""

    at_ms: int
    number: int
    volts: tuple[float, float, float] | None
    amps: tuple[float, float, float] | None
    percent: tuple[float, float, float] | None


class Quarter(NamedTuple):
    """The last state of a quarter of an hour, for the tracker."""

    last_ms: int
    percent: float | None
    ah_in: float | None
    ah_out: float | None


def put(plan_id: int, samples: Sequence[Sample]) -> int:
    """Store samples, all or none; returns how many were new. They may come in any order."""
    if PlanRow.get_or_none(PlanRow.id == plan_id) is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    if not samples:
        return 0
    with database.atomic("IMMEDIATE"):
        before = _changes()
        database.connection().executemany(
            "INSERT OR IGNORE INTO sample VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
            [(plan_id, *sample) for sample in samples],
        )
        new = _changes() - before
        if new:
            _sum_up(plan_id, sorted({sample.at_ms // QUARTER_MS for sample in samples}))
    return new


def put_all(plan_id: int, samples: Iterable[Sample]) -> None:
    """Store any number of samples, some at a time."""
    for some in chunked(samples, PAGE):
        put(plan_id, some)


def _changes() -> int:
    return int(database.connection().total_changes)


def _sum_up(plan_id: int, quarters: list[int]) -> None:
    """Sum the touched quarters anew; runs of neighbours in one go."""
    first = last = quarters[0]
    for quarter in [*quarters[1:], None]:
        if quarter is not None and quarter <= last + 1:
            last = quarter
            continue
        _sum_span(plan_id, first, last)
        if quarter is not None:
            first = last = quarter


def _sum_span(plan_id: int, first: int, last: int) -> None:
    sums = ", ".join(
        f"MIN({name}), MAX({name}), SUM({name}), COUNT({name})"
        for name in ("volts", "amps", "percent")
    )
    span = (plan_id, first * QUARTER_MS, (last + 1) * QUARTER_MS)
    database.execute_sql(
        f"INSERT OR REPLACE INTO sample_quarter SELECT plan_id, at_ms / {QUARTER_MS}, COUNT(*), "
        f"MAX(at_ms), {sums}, NULL, NULL, NULL FROM sample "
        "WHERE plan_id = ? AND at_ms >= ? AND at_ms < ? GROUP BY 2",
        span,
    )
    database.execute_sql(
        "UPDATE sample_quarter SET (percent, ah_in, ah_out) = (SELECT percent, ah_in, ah_out "
        "FROM sample WHERE plan_id = sample_quarter.plan_id AND at_ms = last_ms) "
        "WHERE plan_id = ? AND quarter BETWEEN ? AND ?",
        (plan_id, first, last),
    )


def newest(plan_id: int) -> Sample | None:
    """The sample of the latest moment."""
    row = database.execute_sql(
        "SELECT at_ms, seq, volts, amps, percent, ah_in, ah_out FROM sample "
        "WHERE plan_id = ? ORDER BY at_ms DESC LIMIT 1",
        (plan_id,),
    ).fetchone()
    return None if row is None else Sample(*row)


def count(plan_id: int) -> int:
    """How many are stored."""
    (number,) = database.execute_sql(
        "SELECT COALESCE(SUM(count), 0) FROM sample_quarter WHERE plan_id = ?", (plan_id,)
    ).fetchone()
    return int(number)


def every(plan_id: int) -> Iterator[Sample]:
    """All samples by time, a page at a time."""
    after = -(2**62)
    while True:
        rows = database.execute_sql(
            "SELECT at_ms, seq, volts, amps, percent, ah_in, ah_out FROM sample "
            "WHERE plan_id = ? AND at_ms > ? ORDER BY at_ms LIMIT ?",
            (plan_id, after, PAGE),
        ).fetchall()
        yield from (Sample(*row) for row in rows)
        if len(rows) < PAGE:
            return
        after = rows[-1][0]


def quarters(plan_id: int) -> list[Quarter]:
    """The last state of every quarter of an hour that has samples, by time."""
    rows = database.execute_sql(
        "SELECT last_ms, percent, ah_in, ah_out FROM sample_quarter "
        "WHERE plan_id = ? ORDER BY quarter",
        (plan_id,),
    ).fetchall()
    return [Quarter(*row) for row in rows]


def thinned(plan_id: int, from_ms: int, until_ms: int, points: int) -> list[Thinned]:
    """At most about `points` stretches of equal length, each with least, most and mean.

    Wide stretches come from the quarters' sums, narrow ones from the samples themselves.
    """
    width = max((until_ms - from_ms) // max(points, 1), 1)
    if width >= QUARTER_MS:
        many = -(-width // QUARTER_MS)
        sums = ", ".join(
            f"MIN({n}_least), MAX({n}_most), SUM({n}_sum) / NULLIF(SUM({n}_count), 0)"
            for n in ("volts", "amps", "percent")
        )
        query = (
            f"SELECT quarter / {many} * {many * QUARTER_MS}, SUM(count), {sums} "
            "FROM sample_quarter WHERE plan_id = ? AND quarter >= ? AND quarter <= ? "
            "GROUP BY 1 ORDER BY 1"
        )
        span = (plan_id, from_ms // QUARTER_MS, until_ms // QUARTER_MS)
    else:
        sums = ", ".join(f"MIN({n}), MAX({n}), AVG({n})" for n in ("volts", "amps", "percent"))
        query = (
            f"SELECT at_ms / {width} * {width}, COUNT(*), {sums} FROM sample "
            "WHERE plan_id = ? AND at_ms >= ? AND at_ms <= ? GROUP BY 1 ORDER BY 1"
        )
        span = (plan_id, from_ms, until_ms)
    rows = database.execute_sql(query, span).fetchall()
    return [
        Thinned(row[0], row[1], _three(row[2:5]), _three(row[5:8]), _three(row[8:11]))
        for row in rows
    ]


def _three(values: Sequence[float | None]) -> tuple[float, float, float] | None:
    least, most, mean = values
    if least is None or most is None or mean is None:
        return None
    return (least, most, mean)


def set_monitor(plan_id: int, address: str | None, now: str) -> None:
    """Listen to a monitor at this address; None is to no monitor."""
    if PlanRow.get_or_none(PlanRow.id == plan_id) is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    if address is None:
        MonitorRow.delete().where(MonitorRow.plan == plan_id).execute()
    else:
        MonitorRow.replace(plan=plan_id, address=address, since=now).execute()


def monitors() -> dict[int, str]:
    """Address by plan."""
    kept = MonitorRow.select().join(PlanRow).where(PlanRow.deleted_at.is_null())
    return {row.plan_id: row.address for row in kept}
