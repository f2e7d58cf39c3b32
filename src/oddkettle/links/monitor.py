"""The client of a battery monitor that speaks lines of JSON over TCP: see docs/formats.md."""

from __future__ import annotations

import json
import socket
from collections.abc import Iterator
from datetime import UTC, datetime

SILENCE_S = 15.0
"""A monitor says something at least this often, if only an empty line."""
CONNECT_S = 3.0
LONGEST_LINE = 10_000
TICK_S = 0.25


class MonitorAway(Exception):
    """The monitor cannot be reached, went away or fell silent; says why."""


def parse_address(address: str) -> tuple[str, int]:
    """Host and port of `host:port`. Raises ValueError with what is wanted."""
    host, _, port = address.strip().removeprefix("tcp://").rpartition(":")
    if not host or not port.isdigit() or not 1 <= int(port) <= 65535:
        raise ValueError(f"{address!r} is no address; write it like 127.0.0.1:8770.")
    return host.strip("[]"), int(port)


def listen(address: str, since_ms: int | None) -> Iterator[list[bytes]]:
    """Lines as they come, in small bunches; an empty bunch about every quarter of a second.

    The monitor is told since when samples are wanted, so that nothing is missed after a break.
    Raises MonitorAway when it ends.
    """
    host, port = parse_address(address)
    try:
        connection = socket.create_connection((host, port), timeout=CONNECT_S)
    except OSError as error:
        raise MonitorAway(f"it cannot be reached ({error.strerror or error})") from None
    with connection:
        connection.settimeout(TICK_S)
        since = None if since_ms is None else datetime.fromtimestamp(since_ms / 1000, UTC)
        hello = {"since": None if since is None else since.isoformat()}
        yield from _lines(connection, json.dumps(hello).encode() + b"\n")


def _lines(connection: socket.socket, hello: bytes) -> Iterator[list[bytes]]:
    silent_s, rest = 0.0, b""
    try:
        connection.sendall(hello)
        while True:
            try:
                data = connection.recv(65536)
            except TimeoutError:
                silent_s += TICK_S
                if silent_s >= SILENCE_S:
                    raise MonitorAway(f"it said nothing for {SILENCE_S:g} s") from None
                yield []
                continue
            if not data:
                raise MonitorAway("it closed the line")
            silent_s = 0.0
            *lines, rest = (rest + data).split(b"\n")
            if len(rest) > LONGEST_LINE:
                raise MonitorAway(f"it sent a line of more than {LONGEST_LINE:,} bytes")
            yield [line for line in lines if line.strip()]
    except OSError as error:
        raise MonitorAway(f"the line broke ({error.strerror or error})") from None
