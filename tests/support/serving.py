"""A real server in a process of its own, for tests that need one."""

from __future__ import annotations

import atexit
import os
import socket
import subprocess
import sys
import time
from pathlib import Path

from tests.support import http
from tests.support.patience import PATIENCE_S, until


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


SERVE = [sys.executable, "-m", "oddkettle.cli", "serve"]
"""An empty store and no devices beside it: up in a third of the demo's time."""


class Server:
    """`oddkettle demo` on a free port with a data folder of its own.

    `command` is another way to run it, from the folder `cwd`.
    """

    def __init__(
        self,
        data: Path,
        command: list[str] | None = None,
        cwd: Path | None = None,
        pass_phrase: str | None = None,
        settings: dict[str, str] | None = None,
        port: int | None = None,
    ) -> None:
        self.data = data
        self.settings = settings or {}
        self.shared = (
            {}
            if pass_phrase is None
            else {
                "ODDKETTLE_HOST": "0.0.0.0",
                "ODDKETTLE_PASS_PHRASE": pass_phrase,
            }
        )
        self.command = command or [
            sys.executable,
            "-m",
            "oddkettle.cli",
            "demo",
            "--plan",
            "moth-survey",
        ]
        self.cwd = cwd
        self.port = port or free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[bytes] | None = None

    def environment(self) -> dict[str, str]:
        """What it is told by its environment."""
        return os.environ | {
            "ODDKETTLE_PORT": str(self.port),
            "ODDKETTLE_DATA": str(self.data),
            **self.shared,
            **self.settings,
        }

    def start(self) -> float:
        """Start it and wait until it answers; returns the seconds that took."""
        environment = self.environment()
        begin = time.monotonic()
        # Whatever becomes of the test, nothing that it started is left behind.
        atexit.register(self.kill)
        self.process = subprocess.Popen(
            self.command, env=environment, cwd=self.cwd, stdout=subprocess.DEVNULL
        )
        try:
            until(self._answers, "the server's first answer")
        except TimeoutError:
            self.kill()
            raise
        return time.monotonic() - begin

    def _answers(self) -> bool:
        assert self.process is not None
        if self.process.poll() is not None:
            raise RuntimeError(f"{self.command} ended with {self.process.returncode} at its start")
        try:
            return http.get(f"{self.url}/api/plans").is_success
        except http.HTTPError:
            return False

    def stop(self) -> int:
        """End it as a system does; the code with which it ended."""
        assert self.process is not None
        self.process.terminate()
        return self.process.wait(PATIENCE_S)

    def kill(self) -> None:
        """Kill it as power loss would: no goodbye."""
        if self.process is not None:
            self.process.kill()
            self.process.wait()
