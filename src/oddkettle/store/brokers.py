"""The MQTT broker of each plan, where one is set."""

from __future__ import annotations

from oddkettle.store.file.tables import BrokerRow, PlanRow
from oddkettle.store.plans import NoSuchPlan


def set_broker(plan_id: int, settings: str | None, now: str) -> None:
    """Keep a plan's broker, as JSON; None is none."""
    if PlanRow.get_or_none(PlanRow.id == plan_id) is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    if settings is None:
        BrokerRow.delete().where(BrokerRow.plan == plan_id).execute()
    else:
        BrokerRow.replace(plan=plan_id, settings=settings, since=now).execute()


def brokers() -> dict[int, str]:
    """Settings as JSON, by plan."""
    kept = BrokerRow.select().join(PlanRow).where(PlanRow.deleted_at.is_null())
    return {row.plan_id: row.settings for row in kept}
