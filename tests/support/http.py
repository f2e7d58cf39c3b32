"""The one HTTP client of tests, benchmarks and scripts: it has the patience of all tests.

The library's own gives up after five seconds, which a busy machine needs for a first answer. Ruff
refuses any other client in tests (`pyproject.toml`, banned-api).
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import httpx

from tests.support.patience import PATIENCE_S

HTTPError = httpx.HTTPError
TransportError = httpx.TransportError
ReadTimeout = httpx.ReadTimeout
Response = httpx.Response
Cookies = httpx.Cookies


class Client(httpx.Client):
    """A client with patience; no proxy of the machine's environment comes between."""

    def __init__(self, **options: Any) -> None:
        super().__init__(**{"timeout": PATIENCE_S, "trust_env": False} | options)


def in_process(app: Any, base_url: str, address: str | None = None, **options: Any) -> Any:
    """A client of an app that runs in this process, with no server; `address` is who asks."""
    peer = {} if address is None else {"client": (address, 40_000)}
    transport = httpx.ASGITransport(app=app, **peer)  # type: ignore[arg-type]
    return httpx.AsyncClient(
        **{"transport": transport, "base_url": base_url, "timeout": PATIENCE_S} | options
    )


def request(method: str, url: str, *, timeout: float = PATIENCE_S, **options: Any) -> Response:
    """One question, by a client of its own."""
    with Client(timeout=timeout) as client:
        return client.request(method, url, **options)


def get(url: str, **options: Any) -> Response:
    return request("GET", url, **options)


def post(url: str, **options: Any) -> Response:
    return request("POST", url, **options)


def put(url: str, **options: Any) -> Response:
    return request("PUT", url, **options)


def delete(url: str, **options: Any) -> Response:
    return request("DELETE", url, **options)


@contextmanager
def stream(method: str, url: str, **options: Any) -> Iterator[Response]:
    """An answer that is read as it comes."""
    with Client() as client, client.stream(method, url, **options) as answer:
        yield answer
