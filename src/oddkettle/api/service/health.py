"""How the program stands, for whoever watches over it."""

from __future__ import annotations

from fastapi import APIRouter

from oddkettle.usecases.service.health import HealthReport, health_now

router = APIRouter(tags=["health"])


@router.get("/health")
def health() -> HealthReport:
    """Version, data file, what runs by itself, the newest copy, free space."""
    return health_now()
