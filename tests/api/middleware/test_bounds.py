"""Bounds of what is sent: counted as it comes, refused in words, and let go when it never ends."""

from __future__ import annotations

import asyncio
from typing import Any

import pytest

from oddkettle.api.middleware.bounds import MEGABYTE, USUAL, Bounded, most_bytes
from oddkettle.plan import Plan
from tests.plan.test_document import put, refusal
from tests.support.asked import run_async
from tests.support.patience import PATIENCE_S


async def reads_all(scope: Any, receive: Any, send: Any) -> None:
    """An app that takes the whole body and says how much it was."""
    size = 0
    while True:
        message = await receive()
        size += len(message.get("body", b""))
        if not message.get("more_body", False):
            break
    await send({"type": "http.response.start", "status": 200, "headers": []})
    await send({"type": "http.response.body", "body": str(size).encode()})


def sent(
    pieces: list[bytes],
    path: str = "/api/plans",
    length: int | None = None,
    stalls: bool = False,
    app: Any = None,
    every_s: float = 0.0,
) -> tuple[int, bytes, int]:
    """(status, body, pieces that were read) of sending these."""
    answers: list[dict[str, Any]] = []
    taken = 0

    async def receive() -> dict[str, Any]:
        nonlocal taken
        if taken < len(pieces):
            await asyncio.sleep(every_s)
            taken += 1
            more = taken < len(pieces) or stalls
            return {"type": "http.request", "body": pieces[taken - 1], "more_body": more}
        await asyncio.sleep(PATIENCE_S)
        return {"type": "http.disconnect"}

    async def send(message: dict[str, Any]) -> None:
        answers.append(message)

    headers = [] if length is None else [(b"content-length", str(length).encode())]
    scope = {"type": "http", "method": "POST", "path": path, "headers": headers}
    run_async(Bounded(app or reads_all, quiet_s=0.2, grace_s=0.6)(scope, receive, send))  # type: ignore[arg-type]
    return answers[0]["status"], answers[-1]["body"], taken


def test_what_is_within_its_bound_goes_through() -> None:
    assert sent([b"x" * MEGABYTE] * 4) == (200, str(USUAL).encode(), 4)


def test_what_is_beyond_it_ends_there_whatever_its_length_says() -> None:
    status, body, read = sent([b"x" * MEGABYTE] * 50, length=10)
    assert status == 413
    assert b"at most 4 MB" in body
    assert read == 5


def test_a_length_beyond_it_is_refused_before_anything_is_read() -> None:
    assert sent([b"x"], length=USUAL + 1)[0::2] == (413, 0)


def test_a_sender_that_goes_quiet_is_let_go() -> None:
    status, body, _ = sent([b"x"], stalls=True)
    assert status == 408
    assert b"Nothing came for 0.2 s" in body


def test_a_sender_that_drips_is_let_go_and_one_that_is_slow_is_not() -> None:
    status, body, read = sent([b"x"] * 100, every_s=0.1)
    assert status == 408
    assert b"8 kB a second" in body
    assert 3 <= read <= 7
    # Ten times as long as the drip was borne, at a rate that a poor line has.
    assert sent([b"x" * 8000] * 20, every_s=0.1)[0] == 200


@pytest.mark.parametrize(
    ("path", "most"),
    [
        ("/api/plans", 4),
        ("/api/plans/archive", 64),
        ("/api/plans/7/samples", 24),
        ("/api/plans/7/samples/../../x", 4),
        ("/api/weather", 16),
    ],
)
def test_each_route_has_its_bound(path: str, most: int) -> None:
    assert most_bytes(path) == most * MEGABYTE


def test_more_than_can_be_reckoned_is_refused_with_what_can(document: dict[str, Any]) -> None:
    """Nine days at one minute are 12,960 steps: 1,851 trips of them would be the most."""
    few = put(put(document, "assumptions.step_min", 1), "assumptions.scenarios", 2000)
    long = {**few, "trip": {**few["trip"], "days": [{"sky": "usual"}] * 60, "blocks": []}}
    said = refusal(long)
    assert "172,800,000" in said.text
    assert said.limit == "24,000,000 steps in all"
    assert "277 trips" in said.remedy


def test_an_app_that_swallows_the_end_does_not_answer_in_its_place() -> None:
    """Frameworks answer 400 to a body that breaks off; its sender is told what happened."""

    async def swallows(scope: Any, receive: Any, send: Any) -> None:
        try:
            await reads_all(scope, receive, send)
        except Exception:
            await send({"type": "http.response.start", "status": 400, "headers": []})
            await send({"type": "http.response.body", "body": b"odd"})

    assert sent([b"x" * MEGABYTE] * 9, app=swallows)[0] == 413


def test_a_long_trip_is_reckoned_at_its_own_coarse_step(document: dict[str, Any]) -> None:
    """400 days at an hour are 9,600 steps: 2,000 trips of them can be reckoned."""
    long = put(document, "assumptions.scenarios", 2000)
    long["trip"].update(days=[{"sky": "usual"}] * 400, blocks=[])
    assert len(Plan.model_validate(long).trip.days) == 400
