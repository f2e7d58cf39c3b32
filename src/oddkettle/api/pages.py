"""The built front end, served as files."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.responses import Response
from starlette.types import Scope


class HashedFiles(StaticFiles):
    """Built files whose names change with their content: a browser need never ask again."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """The file, with leave to keep it for a year."""
        response = await super().get_response(path, scope)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def serve_pages(app: FastAPI, folder: Path) -> bool:
    """Serve a built front end after all other routes; False when it is not there."""
    if not (folder / "index.html").is_file():
        return False
    app.mount("/assets", HashedFiles(directory=folder / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.startswith("api/"):
            raise HTTPException(404, f"There is no /{path}.")
        wanted = (folder / path).resolve()
        inside = path and wanted.is_relative_to(folder.resolve()) and wanted.is_file()
        # Every page is the same document; the router inside it reads the address.
        return FileResponse(wanted if inside else folder / "index.html")

    return True
