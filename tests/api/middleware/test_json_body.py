"""Large JSON is counted before anything is built of it; what is no document passes as it came."""

from __future__ import annotations

import json
from typing import Any

import pytest

from oddkettle.api.middleware.json_body import SMALL, CountedJson
from tests.support.asked import run_async

FIELDS = json.dumps({f"a{n}": n for n in range(30_000)}).encode()
LINES = b'{"at": "2026-06-08T12:00:00Z", "volts": 13.2}\n' * 30_000


def sent(path: str, body: bytes, kind: str | None, pieces: int = 3) -> tuple[int, bytes]:
    """(status, what the app within read) of sending a body in pieces."""
    size = -(-len(body) // pieces)
    waiting = [body[n : n + size] for n in range(0, len(body), size)]
    read: list[bytes] = []
    answers: list[dict[str, Any]] = []

    async def app(scope: Any, receive: Any, send: Any) -> None:
        while True:
            message = await receive()
            read.append(message["body"])
            if not message["more_body"]:
                break
        await send({"type": "http.response.start", "status": 200, "headers": []})

    async def receive() -> dict[str, Any]:
        piece = waiting.pop(0)
        return {"type": "http.request", "body": piece, "more_body": bool(waiting)}

    async def send(message: dict[str, Any]) -> None:
        answers.append(message)

    headers = [] if kind is None else [(b"content-type", kind.encode())]
    scope = {"type": "http", "method": "POST", "path": path, "headers": headers}
    run_async(CountedJson(app)(scope, receive, send))  # type: ignore[arg-type]
    return answers[0]["status"], b"".join(read)


@pytest.mark.parametrize("kind", ["application/json", "application/JSON; charset=utf-8", None])
def test_more_fields_than_a_document_has_never_reach_the_app(kind: str | None) -> None:
    assert sent("/api/preview", FIELDS, kind) == (422, b"")


def test_a_document_reaches_it_as_it_came() -> None:
    body = json.dumps({"series": list(range(100_000))}).encode()
    assert len(body) > SMALL
    assert sent("/api/preview", body, "application/json") == (200, body)
    assert sent("/api/preview", b"{", "application/json", 1) == (200, b"{")


@pytest.mark.parametrize("path", ["/api/plans/7/samples", "/api/plans/7/table"])
@pytest.mark.parametrize("kind", ["application/json", "application/x-ndjson", "text/plain", None])
def test_files_of_many_lines_are_none_of_its_business(path: str, kind: str | None) -> None:
    assert sent(path, LINES, kind) == (200, LINES)
