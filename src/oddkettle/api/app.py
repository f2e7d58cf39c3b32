"""The application: API and front end from one process."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from fastapi import FastAPI
from starlette.middleware.gzip import GZipMiddleware

from oddkettle import __version__
from oddkettle.api import practise
from oddkettle.api.box import battery, boxes, build, labels, shelf
from oddkettle.api.field import alarms, broker, log, samples, track
from oddkettle.api.middleware.reader import InHabits
from oddkettle.api.people import devices
from oddkettle.api.plan import forecast, imports, improve, onboarding, places, plans, runs
from oddkettle.api.problems import add_problem_handlers
from oddkettle.api.service import copies, health
from oddkettle.usecases.notifications.alarms.alarms import LOOK_S
from oddkettle.usecases.people.sharing import Sharing
from oddkettle.usecases.service import background


def create_app(
    forecast_url: str | None = None, sharing: Sharing | None = None, *, by_itself: bool = True
) -> FastAPI:
    """The whole API; `forecast_url` is where a forecast service is asked.

    `sharing` says who may come in from the network; without it nobody may. `by_itself` is False
    where somebody else starts and stops what runs by itself.
    """
    app = FastAPI(
        title="Odd Kettle",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        lifespan=_with_background if by_itself else None,
    )
    app.state.forecast_url = forecast_url
    app.state.sharing = sharing
    app.add_middleware(InHabits)
    app.add_middleware(GZipMiddleware, minimum_size=20_000, compresslevel=1)
    add_problem_handlers(app)
    for router in (
        plans.router,
        runs.router,
        improve.router,
        places.router,
        forecast.router,
        log.router,
        track.router,
        samples.router,
        build.router,
        battery.router,
        labels.router,
        onboarding.router,
        boxes.router,
        shelf.router,
        practise.router,
        copies.router,
        devices.router,
        alarms.router,
        imports.router,
        broker.router,
        health.router,
    ):
        app.include_router(router)
    return app


@asynccontextmanager
async def _with_background(_: FastAPI) -> AsyncIterator[None]:
    """What runs by itself, while the app does."""
    background.start(None, LOOK_S)
    yield
    background.stop()
