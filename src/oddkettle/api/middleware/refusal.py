"""What a gate answers instead of passing a request on: a problem, as routes answer it."""

from __future__ import annotations

import json
from collections.abc import Mapping

from starlette.responses import Response


def refusal(
    status: int, text: str, *, title: str = "Refused", headers: Mapping[str, str] | None = None
) -> Response:
    """A problem (RFC 9457) of one sentence or two."""
    body = {
        "type": "about:blank",
        "title": title,
        "status": status,
        "detail": text,
        "complaints": [],
    }
    return Response(
        json.dumps(body), status, dict(headers or {}), media_type="application/problem+json"
    )
