"""Other pages are kept out: foreign hosts, foreign origins, frames and caches."""

from __future__ import annotations

from typing import Any

import pytest

from oddkettle.api.app import create_app
from oddkettle.api.middleware.guard import Guard
from oddkettle.usecases.plans.plans import titles
from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.asked import run_async

pytestmark = pytest.mark.usefixtures("demo_store")
HOME = "http://127.0.0.1:8765"


def ask(method: str, path: str, headers: dict[str, str], **more: Any) -> http.Response:
    async def call() -> http.Response:
        async with http.in_process(Guard(create_app(), ["box.camp"]), HOME) as client:
            return await client.request(method, path, headers=headers, **more)

    return run_async(call())


@pytest.mark.parametrize("host", ["127.0.0.1:8765", "localhost:8765", "[::1]:8765", "box.camp"])
def test_its_own_names_are_answered(host: str) -> None:
    assert ask("GET", "/api/plans", {"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "host",
    [
        "evil.example",
        "127.0.0.1.evil.example",
        "evil.example:8765",
        "",
        "127.0.0.1@evil",
        "evil@127.0.0.1",
        "[",
        "0.0.0.0",
    ],
)
def test_a_rebound_name_reads_nothing(host: str) -> None:
    got = ask("GET", "/api/plans", {"Host": host})
    assert got.status_code == 421
    assert "ODDKETTLE_HOSTS" in got.json()["detail"]


@pytest.mark.parametrize(
    "marks",
    [
        {"Origin": "http://evil.example"},
        {"Origin": "http://127.0.0.1:9999"},
        {"Origin": "null"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
    ],
)
@pytest.mark.parametrize(
    ("method", "path"),
    [("POST", "/api/plans/import"), ("DELETE", "/api/plans/1"), ("PUT", "/api/plans/1/archived")],
)
def test_another_sites_page_changes_nothing(marks: dict[str, str], method: str, path: str) -> None:
    before = titles()
    sample = (EXAMPLES / "coast-unit.json").read_bytes()
    assert ask(method, path, marks, content=sample).status_code == 403
    assert titles() == before


@pytest.mark.parametrize("site", ["cross-site", "same-site"])
@pytest.mark.parametrize("path", ["/api/plans", "/api/backup", "/health", "/openapi.json"])
def test_another_sites_page_reads_nothing(site: str, path: str) -> None:
    got = ask("GET", path, {"Sec-Fetch-Site": site})
    assert got.status_code == 403
    assert "another site" in got.json()["detail"]
    # A person who types the address, and our own pages.
    for own in ("none", "same-origin"):
        assert ask("GET", path, {"Sec-Fetch-Site": own}).status_code == 200


def test_a_link_on_another_site_opens_the_page_itself() -> None:
    """That is how one comes here from a note of one's own; the page then asks by itself."""
    marks = {"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate"}
    assert ask("GET", "/plan/1/today", marks).status_code != 403


def test_a_form_is_not_taken_and_a_program_without_an_origin_is() -> None:
    form = {"Origin": HOME, "Content-Type": "text/plain"}
    assert ask("POST", "/api/plans/import", form, content=b"{}").status_code == 415
    own = {"Origin": HOME, "Sec-Fetch-Site": "same-origin"}
    sample = (EXAMPLES / "coast-unit.json").read_bytes()
    assert ask("POST", "/api/plans/import", own, content=sample).status_code == 201
    assert ask("POST", "/api/plans/import", {}, content=sample).status_code == 201


def test_every_answer_carries_what_browsers_should_know() -> None:
    for path in ("/api/plans", "/api/plans/99", "/openapi.json"):
        headers = ask("GET", path, {}).headers
        assert "frame-ancestors 'none'" in headers["content-security-policy"]
        assert "script-src" not in headers["content-security-policy"]
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["referrer-policy"] == "no-referrer"
        assert headers["cross-origin-resource-policy"] == "same-origin"
    assert ask("GET", "/api/plans", {}).headers["cache-control"] == "no-store"
