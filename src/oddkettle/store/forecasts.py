"""The last forecast of each plan, kept as it came, with when it was taken."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.store.file.tables import ForecastRow, PlanRow
from oddkettle.store.plans import NoSuchPlan


@dataclass(frozen=True)
class KeptForecast:
    """A forecast's JSON, and when it was fetched (UTC)."""

    fetched_at: str
    body: str


def keep(plan_id: int, fetched_at: str, body: str) -> None:
    """Keep a forecast; older ones stay in the table."""
    if PlanRow.get_or_none(PlanRow.id == plan_id) is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    ForecastRow.create(plan=plan_id, fetched_at=fetched_at, body=body)


def newest(plan_id: int) -> KeptForecast | None:
    """The newest one, or None."""
    row = (
        ForecastRow.select()
        .where(ForecastRow.plan == plan_id)
        .order_by(ForecastRow.id.desc())
        .first()
    )
    return None if row is None else KeptForecast(row.fetched_at, row.body)
