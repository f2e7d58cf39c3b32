"""The MQTT broker of a plan."""

from __future__ import annotations

from fastapi import APIRouter

from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.notifications.broker.bridge import BrokerState, broker_state, set_broker
from oddkettle.usecases.notifications.broker.settings import BrokerSettings

router = APIRouter(prefix="/api/plans/{plan_id}/broker", tags=["broker"], responses=PROBLEMS)


@router.get("")
def see_broker(plan_id: int) -> BrokerState:
    """How it stands with the plan's broker."""
    return broker_state(plan_id)


@router.put("")
def use_broker(plan_id: int, settings: BrokerSettings) -> BrokerState:
    """Use a broker from now on; a password that is not given stays as it was."""
    return set_broker(plan_id, settings)


@router.delete("")
def use_no_broker(plan_id: int) -> BrokerState:
    """Use none."""
    return set_broker(plan_id, None)
