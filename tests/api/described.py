"""The API and its own description, made once: that takes seconds, and several tests read it."""

from __future__ import annotations

from typing import Any

from oddkettle.api.app import create_app

APP = create_app()
SPEC: dict[str, Any] = APP.openapi()
