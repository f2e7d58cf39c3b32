"""The application: API and front end from one process."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import Response
from starlette.types import Scope

from oddkettle import __version__
from oddkettle.api import build, forecast, improve, log, places, plans, runs, samples, track
from oddkettle.api.problems import add_problem_handlers
from oddkettle.services import monitor


def create_app(front_end: Path | None = None, forecast_url: str | None = None) -> FastAPI:
    """The app; with `front_end` (a built folder) it serves that too.

    `forecast_url` is where a forecast service is asked.
    """
    app = FastAPI(
        title="Odd Kettle", version=__version__, docs_url=None, redoc_url=None, lifespan=_listening
    )
    app.state.forecast_url = forecast_url
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
    ):
        app.include_router(router)
    if front_end is not None and front_end.is_dir():
        _serve_front_end(app, front_end)
    return app


@asynccontextmanager
async def _listening(_: FastAPI) -> AsyncIterator[None]:
    """Monitors are listened to while the app runs."""
    monitor.start_followers()
    yield
    monitor.stop_followers()


class HashedFiles(StaticFiles):
    """Built files whose names change with their content: a browser need never ask again."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """The file, with leave to keep it for a year."""
        response = await super().get_response(path, scope)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def _serve_front_end(app: FastAPI, folder: Path) -> None:
    app.mount("/assets", HashedFiles(directory=folder / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.startswith("api/"):
            raise HTTPException(404, f"There is no /{path}.")
        wanted = (folder / path).resolve()
        inside = path and wanted.is_relative_to(folder.resolve()) and wanted.is_file()
        # Every page is the same document; the router inside it reads the address.
        return FileResponse(wanted if inside else folder / "index.html")
