"""The pages' files, and what is answered while the rest of the app is still being loaded."""

from __future__ import annotations

import asyncio
import gzip
import threading
from pathlib import Path
from typing import Any

import pytest
from starlette.testclient import TestClient

from oddkettle.api import app as whole
from oddkettle.api.serving import Served
from oddkettle.plan import Plan
from oddkettle.usecases.plans.plans import create_plan
from tests.support.asked import run_async
from tests.support.patience import PATIENCE_S


@pytest.fixture
def built(tmp_path: Path) -> Path:
    """A front end of three files, with a secret beside it."""
    folder = tmp_path / "web"
    (folder / "assets").mkdir(parents=True)
    (folder / "index.html").write_text("<title>Odd Kettle</title>")
    (folder / "kettle.svg").write_text("<svg/>")
    (folder / "assets" / "index-abc.js").write_text("let kettle = 1;" * 200)
    (tmp_path / "secret.txt").write_text("no")
    return folder


def served(folder: Path) -> Served:
    return Served(folder, None, lambda: None)


def test_every_address_is_the_one_document_and_files_are_themselves(
    store: Path, built: Path
) -> None:
    with TestClient(served(built)) as client:
        assert "Odd Kettle" in client.get("/plan/1/trip").text
        assert client.get("/kettle.svg").text == "<svg/>"
        assert client.get("/assets/gone.js").status_code == 404
        assert client.get("/api/nothing").status_code == 404


def test_nothing_beside_the_pages_is_served(store: Path, built: Path) -> None:
    with TestClient(served(built)) as client:
        for outside in ("/../secret.txt", "/%2e%2e/secret.txt", "/assets/../../secret.txt"):
            assert client.get(outside).text != "no"


def test_built_files_are_kept_by_the_browser_and_the_document_is_not(
    store: Path, built: Path
) -> None:
    with TestClient(served(built)) as client:
        assert "immutable" in client.get("/assets/index-abc.js").headers["cache-control"]
        assert client.get("/plan/1/use").headers["cache-control"] == "no-cache"


def test_files_are_packed_once_for_those_who_take_them_so(store: Path, built: Path) -> None:
    app = served(built)
    script = app.pages.files["assets/index-abc.js"]
    assert script.packed is not None
    assert len(script.packed) < len(script.content) / 10
    assert gzip.decompress(script.packed) == script.content
    with TestClient(app) as client:
        plain = client.get("/assets/index-abc.js", headers={"Accept-Encoding": "identity"})
        assert "content-encoding" not in plain.headers
        assert client.get("/assets/index-abc.js").text == plain.text


def test_plans_are_answered_before_the_whole_app_is_there_and_alike_after(
    store: Path, built: Path, moth: Plan, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The whole app is held back by hand; what it alone can answer waits for it."""
    let_go, create = threading.Event(), whole.create_app

    def late(forecast_url: str | None, sharing: object, **options: Any) -> object:
        assert let_go.wait(PATIENCE_S)
        return create(forecast_url)

    monkeypatch.setattr(whole, "create_app", late)
    plan = create_plan(moth)
    app = served(built)
    with TestClient(app) as client:
        early = [client.get("/api/plans"), client.get(f"/api/plans/{plan.id}")]
        assert [answer.status_code for answer in early] == [200, 200]
        assert client.get("/api/plans/99").status_code == 404
        assert not app.whole.done()
        waits: list[int] = []
        asks = threading.Thread(
            target=lambda: waits.append(client.get("/api/reference").status_code)
        )
        asks.start()
        asks.join(0.3)
        assert waits == []
        let_go.set()
        asks.join(30)
        assert waits == [200]
        later = [client.get("/api/plans"), client.get(f"/api/plans/{plan.id}")]
        assert [answer.json() for answer in later] == [answer.json() for answer in early]


def test_whoever_gives_up_waiting_does_not_call_the_app_off(built: Path) -> None:
    async def gives_up(app: Served) -> None:
        with pytest.raises(TimeoutError):
            await asyncio.wait_for(asyncio.wrap_future(app.whole), 0.01)

    app = served(built)
    run_async(gives_up(app))
    assert not app.whole.cancelled()
    app.whole.set_result(app.first)


def test_an_app_that_cannot_be_loaded_says_so_to_whoever_waits(
    store: Path, built: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_: str | None) -> object:
        raise RuntimeError("no such library")

    monkeypatch.setattr(whole, "create_app", broken)
    monkeypatch.setattr(threading, "excepthook", lambda _: None)
    with TestClient(served(built), raise_server_exceptions=False) as client:
        assert client.get("/api/reference").status_code == 500
        assert client.get("/api/plans").status_code == 500
