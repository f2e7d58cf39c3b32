"""Alarms of a plan."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, Field

from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.notifications.alarms import alarms
from oddkettle.usecases.notifications.alarms.alarms import Alarm

router = APIRouter(prefix="/api/plans/{plan_id}/alarms", tags=["alarms"], responses=PROBLEMS)


class SeenAlarm(BaseModel):
    """An alarm that somebody read."""

    key: str = Field(max_length=80)


@router.get("")
def list_alarms(plan_id: int) -> list[Alarm]:
    """What stands now, looked for anew."""
    return alarms.look(plan_id)


@router.post("/seen")
def see_alarm(plan_id: int, seen: SeenAlarm) -> list[Alarm]:
    """Somebody read an alarm: it is told no more, and stays until it is over."""
    return alarms.read(plan_id, seen.key)
