"""A page of another origin, in a real browser, gets nothing and changes nothing."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest
from playwright.sync_api import Browser

from tests.support import http
from tests.support.serving import Server


class Foreign(BaseHTTPRequestHandler):
    """Serves an empty page."""

    def do_GET(self) -> None:
        self.send_response(200)
        self.send_header("Content-Type", "text/html")
        self.end_headers()
        self.wfile.write(b"<!doctype html><title>elsewhere</title>")

    def log_message(self, *_: object) -> None:
        """Say nothing."""


@pytest.fixture
def elsewhere() -> Iterator[str]:
    server = ThreadingHTTPServer(("127.0.0.1", 0), Foreign)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://localhost:{server.server_port}"
    server.shutdown()


ATTACK = """async (target) => {
  const tried = [
    ["POST", "/api/sentence/stories/coast-unit"], ["DELETE", "/api/plans/1"],
    ["POST", "/api/plans/1/undo"], ["POST", "/api/plans/import"],
  ];
  const read = [];
  for (const [method, path] of tried) {
    const body = method === "POST" ? "{}" : undefined;
    await fetch(target + path, { method, body, mode: "no-cors" }).catch(() => undefined);
  }
  for (const path of ["/api/plans", "/api/plans/1"]) {
    const got = fetch(target + path).then((answer) => answer.text());
    await got.then((text) => read.push(text), () => undefined);
  }
  const frame = document.createElement("iframe");
  frame.src = target + "/";
  document.body.append(frame);
  await new Promise((done) => { frame.onload = done; setTimeout(done, 3000); });
  let inside = null;
  try { inside = frame.contentDocument?.body?.innerText ?? null; } catch { inside = null; }
  return { read, inside };
}"""


def test_a_foreign_page_reads_nothing_changes_nothing_and_frames_nothing(
    browser: Browser, server: Server, elsewhere: str
) -> None:
    before = http.get(f"{server.url}/api/plans").json()
    page = browser.new_page()
    page.goto(elsewhere)
    got = page.evaluate(ATTACK, server.url)
    assert got["read"] == []
    assert not got["inside"]
    assert http.get(f"{server.url}/api/plans").json() == before
    page.close()
