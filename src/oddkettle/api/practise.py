"""The trainer: situations, and what a choice leads to."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path

from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.practise import practise
from oddkettle.usecases.practise.practise import Answered, Asked

router = APIRouter(prefix="/api/practise", tags=["practise"], responses=PROBLEMS)


@router.get("")
def situations() -> list[Asked]:
    """Every situation, without its answers."""
    return practise.all_asked()


@router.post("/{key}/{choice}")
def choose(key: Annotated[str, Path(max_length=60)], choice: int) -> Answered:
    """What a choice leads to."""
    return practise.answer(key, choice)
